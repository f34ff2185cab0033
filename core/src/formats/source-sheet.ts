import type { Picture } from '../schema/index.ts';
import { escapedMarkup } from './text-as-html.ts';

/** One line of a sheet of sources; empty where nobody said. */
export interface SourceLine {
  readonly name: string;
  readonly creator: string;
  readonly licence: string;
  readonly page: string;
  readonly address: string;
  readonly use: string;
}

const USES = { look: 'only to look at', work: 'may go into the work' } as const;

export const sourceLineOf = ({
  name,
  source,
  useMark,
}: Pick<Picture, 'name' | 'source' | 'useMark'>): SourceLine => ({
  ...{ name, creator: source.creator ?? '', licence: source.licence ?? '' },
  ...{ page: source.page ?? '', address: source.address ?? '', use: useMark ? USES[useMark] : '' },
});

/** What a picture that goes into the work has to say, and does not. */
export function missingOf({ source, useMark }: Pick<Picture, 'source' | 'useMark'>): string[] {
  return [
    ...(source.creator ? [] : ['made by']),
    ...(source.licence ? [] : ['licence']),
    ...(source.page || source.address ? [] : ['where from']),
    ...(useMark ? [] : ['use']),
  ];
}

const HEADINGS = ['Picture', 'Made by', 'Licence', 'Page', 'Address', 'Use'] as const;
const cellsOf = ({ name, creator, licence, page, address, use }: SourceLine): string[] => [
  ...[name, creator, licence, page, address, use],
];

/** A cell that a table program would take for a formula is set off by an apostrophe. Source: OWASP, "CSV Injection". */
const guarded = (text: string) => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);
const quoted = (text: string) => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

/** Comma-separated values with a heading, CRLF, UTF-8 with a byte order mark so that table programs read it as such. Source: RFC 4180. */
export function sourcesAsCsv(lines: readonly SourceLine[]): string {
  const rows = [HEADINGS, ...lines.map(cellsOf)];
  return `\ufeff${rows.map((row) => `${row.map((cell) => quoted(guarded(cell))).join(',')}\r\n`).join('')}`;
}

const linked = (text: string) =>
  /^https?:\/\//.test(text)
    ? `<a href="${escapedMarkup(text)}">${escapedMarkup(text)}</a>`
    : escapedMarkup(text);

/** A table of lines with a heading. */
export function sourcesAsTable(lines: readonly SourceLine[]): string {
  const row = (cells: readonly string[], tag: 'th' | 'td') =>
    `<tr>${cells.map((cell) => `<${tag}>${tag === 'td' ? linked(cell) : escapedMarkup(cell)}</${tag}>`).join('')}</tr>`;
  return `<table><thead>${row(HEADINGS, 'th')}</thead><tbody>
${lines.map((line) => row(cellsOf(line), 'td')).join('\n')}
</tbody></table>`;
}

/** A page of its own: a table, nothing from elsewhere. */
export const sourcesAsHtml = (title: string, lines: readonly SourceLine[]): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>${escapedMarkup(title)}</title>
<style>body{font:15px Georgia,serif;margin:2em}table{border-collapse:collapse}th,td{text-align:left;vertical-align:top;border-bottom:1px solid #ccc;padding:4px 12px 4px 0}</style>
</head><body><h1>${escapedMarkup(title)}</h1>
${sourcesAsTable(lines)}</body></html>
`;

/** Credits as one would print them: a line a picture, what nobody said left out. */
export function sourcesAsText(title: string, lines: readonly SourceLine[]): string {
  const credit = ({ name, creator, licence, page, address, use }: SourceLine) =>
    [`“${name}”`, creator && `by ${creator}`, licence, page || address, use].filter(Boolean).join(', ');
  return `${title}\n\n${lines.map((line) => `${credit(line)}\n`).join('')}`;
}
