import { CHOSEN_LENSES, type LaidLens, LENS_IDS, type LensId, lensOf } from '@miradero/core/lens';
import { type Command, commandsOf } from '../commands/index.ts';
import { BOARD, type Desk } from '../desk/index.ts';

/** Where each has its key: held it is looked through, tapped it stays. */
export const LENS_KEYS: Readonly<Partial<Record<LensId, string>>> = {
  ...{ values: 'v', steps: 'Shift+V', notan: 'n', outline: 'l', squint: 'q', mirror: 'm', dim: 'Alt+d' },
};

/** What a lens is laid on: what is selected, else everything. */
function laid(desk: Desk, lens: LensId): LaidLens | undefined {
  const on = desk.selection.size > 0 ? [...desk.selection] : null;
  if (on === null && lensOf(lens).dimsOthers) return undefined;
  return { lens, amount: desk.lensAmount(lens), on };
}

/** In the order of the table, whatever was laid on first. */
export const inOrder = (lenses: readonly LaidLens[]): LaidLens[] =>
  [...lenses].sort((a, b) => LENS_IDS.indexOf(a.lens) - LENS_IDS.indexOf(b.lens));

const without = (desk: Desk, lens: LensId) => desk.now.lenses.filter((one) => one.lens !== lens);

/** Lays a lens on for good, or takes it off. */
function toggle(desk: Desk, lens: LensId): void {
  const others = without(desk, lens);
  if (others.length < desk.now.lenses.length) {
    desk.layLenses(others);
    return;
  }
  const one = laid(desk, lens);
  if (one) desk.layLenses(inOrder([...others, one]));
  else desk.say('Nothing to dim the others for.', ['Select what is to be seen as it is.']);
}

/** While its key is held, what is under the lens is seen through it; one that is on anyway stays. */
function hold(desk: Desk, lens: LensId): void {
  const one = without(desk, lens).length < desk.now.lenses.length ? undefined : laid(desk, lens);
  desk.holdLens(one && inOrder([...desk.now.lenses, one]));
}

/** A figure of a lens, from now on and where it is laid on already. */
export function setLensAmount(desk: Desk, lens: LensId, amount: number): void {
  desk.setLensAmount(lens, amount);
  desk.layLenses(desk.now.lenses.map((one) => (one.lens === lens ? { ...one, amount } : one)));
}

export const lensCommand = (lens: LensId): string => `lens-${lens}`;

export const LENS_COMMANDS: readonly Command[] = commandsOf(BOARD, 'Lenses', [
  ...CHOSEN_LENSES.map(
    (lens) =>
      [
        lensCommand(lens),
        lensOf(lens).words,
        LENS_KEYS[lens] ?? [],
        (desk: Desk) => toggle(desk, lens),
        {
          also: 'lens look',
          held: {
            hold: (desk: Desk) => hold(desk, lens),
            letGo: (desk: Desk) => {
              desk.holdLens(undefined);
              return true;
            },
          },
        },
      ] as const,
  ),
  ['no-lens', 'without lenses', 'Alt+v', (desk) => desk.layLenses([])],
]);
