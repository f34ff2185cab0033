import { blocksOf, type Text, type TextBlock, type TextRunOf } from '../text/index.ts';

const ENTITIES: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
/** Text as HTML and XML take it, in elements and in quoted attributes. */
export const escapedMarkup = (text: string): string => text.replace(/[&<>"]/g, (sign) => ENTITIES[sign]!);

const TAGS = { bold: 'strong', italic: 'em', underline: 'u', strike: 's' } as const;

function runAsHtml({ text, marks = [], link }: TextRunOf): string {
  const words = escapedMarkup(text).replaceAll('\n', '<br>');
  const marked = marks.reduce((inner, mark) => `<${TAGS[mark]}>${inner}</${TAGS[mark]}>`, words);
  return link === undefined ? marked : `<a href="${escapedMarkup(link)}" rel="noreferrer">${marked}</a>`;
}

/** Lists in lists stand by their margin: their entries are kept one below the other. */
function blockAsHtml(block: TextBlock): string {
  const words = block.runs.map(runAsHtml).join('');
  const { list, depth = 0 } = block;
  if (list === undefined) return `<p>${words}</p>`;
  const box = list === 'check' ? `<input type="checkbox" disabled${block.isDone ? ' checked' : ''}> ` : '';
  const tag = list === 'number' ? 'ol' : 'ul';
  return `<${tag}${depth > 0 ? ` style="margin-left:${1.5 * depth}em"` : ''}><li>${box}${words}</li></${tag}>`;
}

/** What is written, as a piece of HTML without scripts; entries that follow each other are one list. */
export const textAsHtml = (text: Text): string =>
  blocksOf(text)
    .map(blockAsHtml)
    .join('\n')
    .replace(/<\/(ul|ol)>\n<\1>/g, '\n');

/** A page of its own, nothing from elsewhere. */
export const pageOfHtml = (title: string, body: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>${escapedMarkup(title)}</title>
<style>body{font:16px/1.45 Georgia,serif;margin:2em;max-width:40em}</style>
</head><body>
${body}
</body></html>
`;
