import type { Board } from '@miradero/core/schema';

const DAY = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'long',
  year: 'numeric',
  timeZone: 'UTC',
});

/** For whom and by when a board is, in one line; '' where nobody said. */
export const briefWords = ({ forWhom, due }: Pick<Board, 'forWhom' | 'due'>): string =>
  [forWhom.trim() && `for ${forWhom.trim()}`, due && `by ${DAY.format(new Date(due))}`]
    .filter(Boolean)
    .join(', ');
