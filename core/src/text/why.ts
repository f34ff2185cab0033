/** Of what an engine says where memory is not to be had: V8, SpiderMonkey, JavaScriptCore. */
const NO_MEMORY =
  /allocat|out of memory|(typed array|array buffer|array) (length|size)|length.*(limits|too large)/i;

/** Whether something failed for want of memory; told by the engine's words, as nothing else tells it. */
export const isForWantOfMemory = (error: unknown): boolean =>
  error instanceof RangeError && NO_MEMORY.test(error.message);

/** Why something failed, for a person: the words of whoever threw it, but for those an engine has for a lack of room. */
export function whyOf(error: unknown): string {
  if (isForWantOfMemory(error)) return 'The browser has no memory left for it.';
  if (!(error instanceof Error)) return String(error);
  if (error.name === 'QuotaExceededError') return 'The browser has no room left on the disk.';
  return error.message;
}
