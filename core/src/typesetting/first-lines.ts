import { layOut, type SetText, type Setting } from './lay-out.ts';

/** The first lines of a text; where more were left out, the last one says so. */
export function firstLines(text: string, setting: Setting, most: number): SetText {
  const set = layOut(text, setting);
  if (set.lines.length <= most) return set;
  const lines = set.lines.slice(0, most);
  const last = lines[most - 1]!;
  lines[most - 1] = { ...last, text: `${last.text.replace(/.{0,2}$/u, '')}…` };
  return { ...set, lines, height: most * setting.lineHeight };
}
