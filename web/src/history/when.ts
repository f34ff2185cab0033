const DAY_MS = 24 * 60 * 60 * 1000;
const HOUR = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
const WEEKDAY = new Intl.DateTimeFormat('en-GB', { weekday: 'long' });
const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long' });
const DAY_OF_YEAR = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });

/** Midnights between a moment and now. */
function daysAgo(at: Date, now: Date): number {
  const dayOf = (date: Date) => Date.UTC(date.getFullYear(), date.getMonth(), date.getDate());
  return Math.round((dayOf(now) - dayOf(at)) / DAY_MS);
}

/** A day as it is spoken of: today, yesterday, a day of this week, a date. */
export function dayWords(at: Date, now = new Date()): string {
  const days = daysAgo(at, now);
  if (days === 0) return 'today';
  if (days === 1) return 'yesterday';
  if (days > 1 && days < 7) return WEEKDAY.format(at);
  return (at.getFullYear() === now.getFullYear() ? DAY : DAY_OF_YEAR).format(at);
}

/** A moment: "Tuesday, 14:32". */
export const momentWords = (at: Date, now = new Date()): string => `${dayWords(at, now)}, ${HOUR.format(at)}`;

export const hourWords = (at: Date): string => HOUR.format(at);
