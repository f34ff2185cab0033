import { itemIdOf } from '@miradero/core/board';
import { createStore, type Readable } from '../../state/index.ts';
import type { Act, Gesture, Step } from './act.ts';
import { joinActs, newGesture } from './act.ts';
import type { Side } from './kept-step.ts';
import type { StepStore } from './step-store.ts';
import { type Means, type OpenBoard, takeActBack } from './take-back.ts';
import { wordsOfStep } from './words-of-step.ts';

/** A window keeps so many steps, and so much of them. */
const MOST_STEPS = 200;
const MOST_BYTES = 16 * 1024 * 1024;

/** What a press of undo or redo came to. */
export interface Turned {
  readonly side: Side;
  readonly words: string;
  readonly at: string;
  /** Properties that were left as another window has set them since. */
  readonly skipped: number;
  /** Items that it altered, by board. */
  readonly touched: readonly { readonly board: string; readonly items: readonly string[] }[];
}

/** What could be taken back, or made again, next: in words; undefined where there is nothing. */
export interface NextSteps extends Readonly<Record<Side, string | undefined>> {
  /** Something is being taken back or made again. */
  readonly isTurning: boolean;
}

interface Numbered {
  readonly number: number;
  readonly step: Step;
  readonly bytes: number;
}

interface About {
  readonly gesture?: Gesture;
  readonly words?: string;
  /** Where it is seen; by default the page that is in front. */
  readonly at?: string;
}

const touchedBy = ({ acts }: Step): Turned['touched'] =>
  acts.flatMap((act) =>
    act.kind === 'change' ? [{ board: act.board, items: act.done.change.operations.map(itemIdOf) }] : [],
  );

const sizeOf = (step: Step): number => JSON.stringify(step).length * 2;

/**
 * What a person did in this window, as steps that can be taken back one by one, whatever they touched: items of boards, facts
 * of pictures, boards and subjects, many pictures at once. Kept over a reload.
 */
export class Steps {
  readonly #means: Means;
  readonly #store: StepStore | undefined;
  readonly #stacks: Record<Side, Numbered[]> = { undo: [], redo: [] };
  readonly #boards = new Map<string, OpenBoard>();
  readonly #next = createStore<NextSteps>(() => ({ undo: undefined, redo: undefined, isTurning: false }));
  /** Ascending also over reloads: what was read from before lies under what was done since. */
  #number = Date.now();
  #turning = 0;
  /** Steps are taken back in the order in which it was asked for, also by a key that is held. */
  #last: Promise<unknown> = Promise.resolve();

  constructor(means: Means, store?: StepStore) {
    this.#means = means;
    this.#store = store;
  }

  /** Takes up what this window did before it was loaded anew; what is asked to be taken back meanwhile waits for it. */
  read(): Promise<void> {
    return this.#inTurn(async () => {
      const before: Record<Side, Numbered[]> = { undo: [], redo: [] };
      for (const { number, side, step } of (await this.#store?.read()) ?? []) {
        before[side].push({ number, step, bytes: sizeOf(step) });
        this.#number = Math.max(this.#number, number);
      }
      // Something new was done meanwhile: what was taken back before cannot be made again.
      const hasNew = this.#stacks.undo.length > 0;
      this.#stacks.undo.unshift(...before.undo);
      if (hasNew) for (const { number } of before.redo) this.#store?.drop(number);
      else this.#stacks.redo.unshift(...before.redo);
      this.#tell();
    });
  }

  get store(): Readable<NextSteps> {
    return this.#next;
  }

  /** The gesture of what would be taken back next. */
  get last(): Gesture | undefined {
    return this.#stacks.undo.at(-1)?.step.gesture;
  }

  /** A board was opened here, or closed: open ones take changes back themselves. @returns a function that says so */
  attach(id: string, board: OpenBoard): () => void {
    this.#boards.set(id, board);
    return () => {
      if (this.#boards.get(id) === board) this.#boards.delete(id);
    };
  }

  /** Keeps how to take something back; acts of one gesture are one step, wherever it lies by now. */
  record(act: Act, { gesture = newGesture(), words, at = location.pathname }: About = {}): void {
    const { undo } = this.#stacks;
    const index = undo.findLastIndex(({ step }) => step.gesture === gesture);
    if (index >= 0) {
      const { number, step } = undo[index]!;
      const joined = joinActs(step.acts.at(-1), act);
      const longer = { ...step, acts: joined ? [...step.acts.slice(0, -1), joined] : [...step.acts, act] };
      undo[index] = { number, step: longer, bytes: sizeOf(longer) };
      this.#store?.keep(number, 'undo', longer);
    } else {
      this.#push('undo', { gesture, acts: [act], at, ...(words ? { words } : {}) });
      this.#clear('redo');
    }
    this.#tell();
  }

  undo(): Promise<Turned | undefined> {
    return this.#ask('undo', 'redo');
  }

  redo(): Promise<Turned | undefined> {
    return this.#ask('redo', 'undo');
  }

  /**
   * Acts that are no more (a refused change, a board with another past) go from their steps; empty steps go whole.
   *
   * @param left - what is left of an act: itself, a part of it, or undefined
   */
  forget(left: (act: Act) => Act | undefined): void {
    for (const side of ['undo', 'redo'] as const) {
      this.#stacks[side] = this.#stacks[side].flatMap((one) => {
        const acts = one.step.acts.flatMap((act) => left(act) ?? []);
        if (acts.length === one.step.acts.length && acts.every((act, index) => act === one.step.acts[index]))
          return [one];
        if (acts.length === 0) {
          this.#store?.drop(one.number);
          return [];
        }
        const step = { ...one.step, acts };
        this.#store?.keep(one.number, side, step);
        return [{ ...one, step }];
      });
    }
    this.#tell();
  }

  #ask(from: Side, to: Side): Promise<Turned | undefined> {
    this.#turning += 1;
    this.#tell();
    return this.#inTurn(() => this.#turn(from, to)).finally(() => {
      this.#turning -= 1;
      this.#tell();
    });
  }

  #inTurn<T>(act: () => Promise<T>): Promise<T> {
    const next = this.#last.then(act);
    this.#last = next.catch(() => {});
    return next;
  }

  /** @throws UnreachableError when the server is away and has to be asked; what was not taken back stays a step */
  async #turn(from: Side, to: Side): Promise<Turned | undefined> {
    const taken = this.#stacks[from].pop();
    if (!taken) return undefined;
    const { step } = taken;
    const context = { means: this.#means, board: (id: string) => this.#boards.get(id) };
    const reverse: Act[] = [];
    const left = [...step.acts];
    let skipped = 0;
    try {
      for (let act = left.at(-1); act; act = left.at(-1)) {
        const reversed = await takeActBack(context, act);
        left.pop();
        skipped += reversed.skipped;
        if (reversed.act) reverse.push(reversed.act);
      }
    } catch (error) {
      const rest = { ...step, acts: left };
      this.#stacks[from].push({ ...taken, step: rest });
      this.#store?.keep(taken.number, from, rest);
      if (reverse.length > 0) this.#push(to, { ...step, acts: reverse });
      this.#tell();
      throw error;
    }
    this.#store?.drop(taken.number);
    if (reverse.length > 0) this.#push(to, { ...step, words: wordsOfStep(step), acts: reverse });
    this.#tell();
    return { side: from, words: wordsOfStep(step), at: step.at, skipped, touched: touchedBy(step) };
  }

  #push(side: Side, step: Step): void {
    this.#number += 1;
    this.#stacks[side].push({ number: this.#number, step, bytes: sizeOf(step) });
    this.#store?.keep(this.#number, side, step);
    let bytes = this.#stacks[side].reduce((sum, one) => sum + one.bytes, 0);
    while (this.#stacks[side].length > MOST_STEPS || (bytes > MOST_BYTES && this.#stacks[side].length > 1)) {
      const oldest = this.#stacks[side].shift()!;
      bytes -= oldest.bytes;
      this.#store?.drop(oldest.number);
    }
  }

  #clear(side: Side): void {
    for (const { number } of this.#stacks[side]) this.#store?.drop(number);
    this.#stacks[side] = [];
  }

  #tell(): void {
    const wordsOf = (side: Side) => {
      const last = this.#stacks[side].at(-1);
      return last && wordsOfStep(last.step);
    };
    this.#next.setState({ undo: wordsOf('undo'), redo: wordsOf('redo'), isTurning: this.#turning > 0 });
  }
}
