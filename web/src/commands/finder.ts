import type { Sync } from '../sync/index.ts';
import type { Places } from './place.ts';

/** Something that has a name, and how to get to it. */
export interface Found {
  readonly id: string;
  readonly name: string;
  /** What it belongs to, or where it is. */
  readonly about?: string;
  open(): void;
}

export interface FindingMeans {
  readonly sync: Sync;
  readonly places: Places;
  /** Goes to a page of the application; `show` says what of it is to be seen. */
  go(path: string, show?: Shown): void;
}

/** What of a page is to be seen, handed over as the state of its address. */
export interface Shown {
  /** Items of the board. */
  readonly items?: readonly string[];
  /** Part of the subject. */
  readonly part?: string;
}

/** Finds things of one kind by what is typed. */
export interface Finder {
  readonly id: string;
  readonly heading: string;
  /** It has something to show before anything is typed. */
  readonly isAtRest?: true;
  /**
   * @param words - not empty, but for one that is at rest
   * @returns the best first
   * @throws UnreachableError when the server has to be asked, and is away
   */
  find(words: string, means: FindingMeans, signal: AbortSignal): Promise<readonly Found[]>;
}

/** How well a name fits what is typed, 0..1: every word must occur; at the beginning of the name or of a word is better. */
export function scoreOf(name: string, typed: string, also = ''): number {
  const first = name.toLowerCase();
  const all = `${first} ${also.toLowerCase()}`;
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  if (!words.every((word) => all.includes(word))) return 0;
  const best = words.map((word) => (first.startsWith(word) ? 1 : first.includes(` ${word}`) ? 0.8 : 0.4));
  return best.reduce((sum, one) => sum + one, 0.01) / (words.length + 0.01);
}

/** Those whose name fits, the best first. */
export const byName = <T extends { readonly name: string }>(
  all: readonly T[],
  words: string,
  most: number,
): T[] =>
  all
    .map((one) => ({ one, score: scoreOf(one.name, words) }))
    .filter(({ score }) => score > 0)
    .sort((one, other) => other.score - one.score)
    .slice(0, most)
    .map(({ one }) => one);
