/** The same bytes are the same picture: said, and no more. */
export function knownWords(names: readonly string[], how: 'stand' | 'lie' = 'stand'): string {
  const [first] = names;
  const where = how === 'stand' ? ' here' : '';
  if (names.length === 1) return `“${first}” was here already; it ${how}s${where} as the same picture.`;
  return `${names.length} of them were here already; they ${how}${where} as the same pictures.`;
}
