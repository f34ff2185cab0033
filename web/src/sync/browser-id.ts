import { recall, remember } from '../state/index.ts';

const KEY = 'miradero-browser';
const IS_ID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** Id of this browser, the same in all its windows: changes bear it, so that what was made here is no news here. */
export function browserId(): string {
  const known = recall(KEY);
  if (known !== null && IS_ID.test(known)) return known;
  const made = crypto.randomUUID();
  remember(KEY, made);
  return made;
}
