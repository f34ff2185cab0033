import { type PaletteItem, swatchAt } from '@miradero/core/items';
import { copyHex, loadColour, PaletteLabel } from '../../colour/index.ts';
import type { Desk } from '../../desk/index.ts';
import type { KindInInterface } from '../kind.ts';

function LabelOfPalette({ desk, item }: { desk: Desk; item: PaletteItem }) {
  return <PaletteLabel key={item.id} desk={desk} item={item} />;
}

export const paletteInInterface: KindInInterface<PaletteItem> = {
  nameOf: (_, { title }) => title.trim() || undefined,
  offers: ['label', 'come-close', 'duplicate', 'remove', 'fix', 'raise', 'lower'],
  Label: LabelOfPalette,
  ahead: loadColour,
  open(desk) {
    if (!desk.now.isLabelOpen) desk.toggleLabel();
  },
  // With Ctrl a patch is copied: without it one takes hold of the palette.
  tap(desk, palette, at, _, isFollowing) {
    const swatch = isFollowing ? swatchAt(palette, at) : undefined;
    if (!swatch) return false;
    void copyHex(desk, swatch.hex);
    return true;
  },
};
