/** What the hand does by itself; stands in the sheet beside the keys. */
export const BY_HAND: readonly (readonly [words: string, how: string])[] = [
  ['zoom at the pointer', 'wheel, or pinch'],
  ['pan', 'middle button, or two fingers'],
  ['select; add to it', 'click; Shift click'],
  ['select what a band touches', 'drag on the ground'],
  ['come close, go back', 'double click'],
  ['what can be done here', 'right click, or hold still'],
  ['keep to one axis', 'Shift while moving'],
  ['steps of 15°', 'Shift while turning'],
  ['line nothing up', 'Alt while moving'],
  ['size from the centre', 'Alt while sizing'],
  ['zoom with a pen alone', 'drag along the right edge'],
  ['pan with a pen alone', 'drag along the lower edge'],
  ['move the focus', 'Tab'],
];
