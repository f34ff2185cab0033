import type { FromSchema } from 'json-schema-to-ts';

export const TEXT_MARKS = ['bold', 'italic', 'underline', 'strike'] as const;
export type TextMark = (typeof TEXT_MARKS)[number];
export const LISTS = ['bullet', 'number', 'check'] as const;
export type ListKind = (typeof LISTS)[number];
/** How deep lists stand in lists, from 0. */
export const DEEPEST = 5;
/** Characters of a text, plain or not. */
export const TEXT_MOST = 20_000;
/** Where a link may lead. */
const LINK = '^(?:https?://|mailto:)[^\\s]+$';

/**
 * Formatted text: blocks one below the other, each a paragraph or an entry of a list, made of runs that are formatted alike.
 * What needs none of this is a plain string, and stays readable as one for good.
 */
export const richTextSchema = {
  type: 'object',
  properties: {
    blocks: {
      type: 'array',
      minItems: 1,
      maxItems: 2_000,
      items: {
        type: 'object',
        properties: {
          list: { enum: LISTS },
          depth: { type: 'integer', minimum: 0, maximum: DEEPEST },
          /** Of an entry to be checked off. */
          isDone: { type: 'boolean' },
          runs: {
            type: 'array',
            maxItems: 2_000,
            items: {
              type: 'object',
              properties: {
                /** A line feed begins a new line in the same block. */
                text: { type: 'string', format: 'text', minLength: 1, maxLength: TEXT_MOST },
                marks: {
                  type: 'array',
                  minItems: 1,
                  maxItems: TEXT_MARKS.length,
                  uniqueItems: true,
                  items: { enum: TEXT_MARKS },
                },
                link: { type: 'string', format: 'text', pattern: LINK, maxLength: 2_000 },
              },
              required: ['text'],
              additionalProperties: false,
            },
          },
        },
        required: ['runs'],
        additionalProperties: false,
      },
    },
  },
  required: ['blocks'],
  additionalProperties: false,
  /** Of all runs together. */
  mostCharacters: TEXT_MOST,
} as const;

/** Text as it is kept: plain, or formatted. */
export const textSchema = {
  anyOf: [{ type: 'string', format: 'text', maxLength: TEXT_MOST }, richTextSchema],
} as const;

export type RichText = FromSchema<typeof richTextSchema>;
export type TextBlock = RichText['blocks'][number];
export type TextRunOf = TextBlock['runs'][number];
export type Text = string | RichText;

const isLink = new RegExp(LINK, 'i');
/** Whether a text may lead somewhere: to a page, or to somebody's post. */
export const mayLink = (address: string): boolean => address.length <= 2_000 && isLink.test(address);

export const wordsOfBlock = ({ runs }: TextBlock): string => runs.map(({ text }) => text).join('');

/** What is written, without how. */
export const plainOf = (text: Text): string =>
  typeof text === 'string' ? text : text.blocks.map(wordsOfBlock).join('\n');

/** Characters of a text; a block's end is one. */
export const lengthOfText = (text: Text): number =>
  typeof text === 'string'
    ? text.length
    : text.blocks.reduce((sum, { runs }) => runs.reduce((all, run) => all + run.text.length, sum + 1), -1);

/** The blocks of a text; a plain one has a paragraph a line. */
export const blocksOf = (text: Text): readonly TextBlock[] =>
  typeof text === 'string'
    ? text.split('\n').map((line) => ({ runs: line === '' ? [] : [{ text: line }] }))
    : text.blocks;

const isPlain = ({ list, runs }: TextBlock): boolean =>
  list === undefined && runs.every(({ marks, link, text }) => !marks && !link && !text.includes('\n'));

/** A text as it is kept: plain where nothing of it is formatted. */
export const textOf = (blocks: readonly TextBlock[]): Text =>
  blocks.every(isPlain) ? blocks.map(wordsOfBlock).join('\n') : { blocks: [...blocks] };

/** Every line that is no entry of a list made one to be checked off. */
export const asChecks = (text: Text): Text =>
  textOf(blocksOf(text).map((block) => (block.list ? block : { ...block, list: 'check' })));

/** The text with an entry checked off, or no longer. @param index - of the block */
export function withCheck(text: Text, index: number, isDone: boolean): Text {
  if (typeof text === 'string' || text.blocks[index]?.list !== 'check') return text;
  const { isDone: _, ...block } = text.blocks[index];
  return { blocks: text.blocks.with(index, isDone ? { ...block, isDone } : block) };
}

/** Addresses that a text leads to and the words that do, in their order; runs side by side are one. */
export function linksOf(text: Text): { readonly address: string; readonly words: string }[] {
  if (typeof text === 'string') return [];
  const found: { address: string; words: string }[] = [];
  for (const { runs } of text.blocks) {
    let open: string | undefined;
    for (const { link, text: words } of runs) {
      if (link !== undefined && link === open) found.at(-1)!.words += words;
      else if (link !== undefined) found.push({ address: link, words });
      open = link;
    }
  }
  return found;
}

const withMarks = (run: TextRunOf, marks: readonly TextMark[]): TextRunOf => {
  const { marks: _, ...plain } = run;
  return marks.length === 0 ? plain : { ...plain, marks: [...marks] };
};

/** Whether all that is written is marked so, and something is. */
export const isMarked = (text: Text, mark: TextMark): boolean => {
  const runs = blocksOf(text).flatMap((block) => block.runs);
  return runs.length > 0 && runs.every(({ marks }) => marks?.includes(mark));
};

/** The whole text marked so, or no longer. */
export const markedAll = (text: Text, mark: TextMark, isOn: boolean): Text =>
  textOf(
    blocksOf(text).map((block) => ({
      ...block,
      runs: block.runs.map((run) =>
        withMarks(
          run,
          TEXT_MARKS.filter((one) => (one === mark ? isOn : run.marks?.includes(one))),
        ),
      ),
    })),
  );

/** Whether every block is an entry of such a list. */
export const isListed = (text: Text, list: ListKind): boolean =>
  blocksOf(text).every((block) => block.list === list);

/** Every block made an entry of such a list, or a paragraph again. */
export const listedAll = (text: Text, list: ListKind | undefined): Text =>
  textOf(
    blocksOf(text).map(({ runs, depth, isDone }) => ({
      ...(list !== undefined && { list, ...(depth !== undefined && { depth }) }),
      ...(list === 'check' && isDone !== undefined && { isDone }),
      runs,
    })),
  );

/** Whether something of unknown origin is a text: its form alone, as schemas tell it. */
export function isText(value: unknown): value is Text {
  if (typeof value === 'string') return true;
  const { blocks } = (value ?? {}) as { blocks?: unknown };
  const isOneOf = (names: readonly string[], name: unknown) => names.includes(name as string);
  return (
    Array.isArray(blocks) &&
    blocks.length > 0 &&
    blocks.every(
      (block: Partial<TextBlock> | null) =>
        (block?.list === undefined || isOneOf(LISTS, block.list)) &&
        (block?.depth === undefined || (Number.isInteger(block.depth) && block.depth >= 0)) &&
        Array.isArray(block?.runs) &&
        block.runs.every(
          (run: Partial<TextRunOf> | null) =>
            typeof run?.text === 'string' &&
            (run.link === undefined || typeof run.link === 'string') &&
            (run.marks === undefined ||
              (Array.isArray(run.marks) && run.marks.every((mark) => isOneOf(TEXT_MARKS, mark)))),
        ),
    )
  );
}
