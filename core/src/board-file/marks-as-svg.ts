import { escapedMarkup } from '../formats/index.ts';
import { heightOf, type Item, isMark, isPictureMark, pathsOf } from '../items/index.ts';

/** A mark as a drawing of its own, in its own frame; undefined for what is no mark. */
export function markAsSvg(item: Item): string | undefined {
  if (!isMark(item) && !isPictureMark(item)) return undefined;
  const [width, height] = [item.width, heightOf(item)];
  const paths = pathsOf(item).map(({ d, fill = 'none', stroke }) => {
    const line = stroke ? ` stroke="${escapedMarkup(stroke.colour)}" stroke-width="${stroke.width}"` : '';
    return `<path d="${escapedMarkup(d)}" fill="${escapedMarkup(fill)}"${line}/>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" overflow="visible">${paths.join('')}</svg>\n`;
}
