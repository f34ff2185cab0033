/** A time as it is written, to the millisecond: `0:03.480`, with hours where there are any. */
export function timecodeOf(us: number): string {
  const ms = Math.floor(Math.max(0, us) / 1_000);
  const two = (value: number) => String(value).padStart(2, '0');
  const seconds = `${two(Math.floor(ms / 1_000) % 60)}.${String(ms % 1_000).padStart(3, '0')}`;
  const minutes = Math.floor(ms / 60_000);
  const hours = Math.floor(minutes / 60);
  return hours > 0 ? `${hours}:${two(minutes % 60)}:${seconds}` : `${minutes}:${seconds}`;
}
