import { type PaletteItem, swatchAt } from '@miradero/core/items';
import { Suspense } from 'react';
import { PaletteLabel } from '../../colour/index.ts';
import type { Desk } from '../../desk/index.ts';
import type { KindInInterface } from '../kind.ts';

function LabelOfPalette({ desk, item }: { desk: Desk; item: PaletteItem }) {
  return (
    <Suspense fallback={<h2 className="font-serif text-[19px]">{item.title || 'Palette'}</h2>}>
      <PaletteLabel key={item.id} desk={desk} item={item} />
    </Suspense>
  );
}

export const paletteInInterface: KindInInterface<PaletteItem> = {
  nameOf: (_, { title }) => title.trim() || undefined,
  offers: ['label', 'come-close', 'duplicate', 'remove', 'fix', 'raise', 'lower'],
  Label: LabelOfPalette,
  open(desk) {
    if (!desk.now.isLabelOpen) desk.toggleLabel();
  },
  // With Ctrl a patch is copied: without it one takes hold of the palette.
  tap(desk, palette, at, _, isFollowing) {
    const swatch = isFollowing ? swatchAt(palette, at) : undefined;
    if (!swatch) return false;
    navigator.clipboard.writeText(swatch.hex).then(
      () => desk.say(`Copied: ${swatch.hex}.`),
      () => desk.say('The clipboard could not be written.', [swatch.hex]),
    );
    return true;
  },
};
