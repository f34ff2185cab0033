import { matchKeyBindingPress, parseKeybinding } from 'tinykeys';

const IS_APPLE = /Mac|iPhone|iPad/.test(globalThis.navigator?.platform ?? '');
const MODIFIERS = new Set(['Control', 'Shift', 'Alt', 'Meta', 'AltGraph', 'CapsLock', 'Dead']);

/** How keys are written for the person, where their own name would not do. */
const WORDS: Readonly<Record<string, string>> = {
  $mod: IS_APPLE ? '⌘' : 'Ctrl',
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  Escape: 'Esc',
  Delete: 'Del',
  Backspace: '⌫',
  PageUp: 'PgUp',
  PageDown: 'PgDn',
  Equal: '+',
  Period: '.',
  Comma: ',',
  BracketLeft: '[',
  BracketRight: ']',
  NumpadAdd: 'Num +',
  NumpadSubtract: 'Num −',
  '-': '−',
  ...Object.fromEntries(Array.from({ length: 10 }, (_, digit) => [`Digit${digit}`, String(digit)])),
};

/** A press as it is written on the sill and in the sheet: "Ctrl Z". */
export const pressWords = (press: string): string =>
  press
    .split('+')
    .map((part) => WORDS[part] ?? (part.length === 1 ? part.toUpperCase() : part))
    .join(' ');

/** The notation (tinykeys) of the key that was just pressed; undefined while only modifiers are down. */
export function pressOf(event: KeyboardEvent): string | undefined {
  if (MODIFIERS.has(event.key)) return undefined;
  // The notation parts by spaces and plus signs: such keys go by their place.
  const isUnwritable = event.key === ' ' || event.key === '+';
  const key = isUnwritable ? event.code : event.key.length === 1 ? event.key.toLowerCase() : event.key;
  const isMod = IS_APPLE ? event.metaKey : event.ctrlKey;
  return [isMod && '$mod', event.altKey && 'Alt', event.shiftKey && 'Shift', key].filter(Boolean).join('+');
}

type Binding = ReturnType<typeof parseKeybinding>;
/** Every key that is pressed is held against all of them. */
const parsed = new Map<string, Binding>();
function bindingOf(press: string): Binding {
  const known = parsed.get(press) ?? parseKeybinding(press);
  parsed.set(press, known);
  return known;
}

/** Whether a key event is this press, modifiers included. */
export const isPress = (event: KeyboardEvent, press: string): boolean =>
  bindingOf(press).some((one) => matchKeyBindingPress(event, one));

/** Whether a key event is of this press's key, whatever modifiers are down by now. */
export function isKeyOf(event: KeyboardEvent, press: string): boolean {
  const key = press.split('+').pop()!.toLowerCase();
  return event.key.toLowerCase() === key || event.code.toLowerCase() === key;
}

/** Presses that mean the same key have the same canonical form. */
export const canonical = (press: string): string => {
  const parts = press.toLowerCase().split('+');
  const key = parts.pop()!;
  return [...parts.sort(), key].join('+');
};
