import { INTAKE_LIMITS } from '@miradero/core/picture';
import type { Desk } from '../../../desk/index.ts';
import { storeVersion, whyNot } from '../../../gather/index.ts';
import type { Painting } from '../sheet/painting.ts';

/** A version is made once nothing was painted for so long, ms. */
const REST_MS = 6_000;
/** One that this computer had no room for, or that failed otherwise, is tried again after so long, ms. */
const AGAIN_MS = 30_000;

/** Nothing is won by trying again. */
class TooLarge extends Error {}

/** Makes versions of what is painted, at rest: they stand on boards, and go to the server. */
export class VersionMaker {
  readonly #desk: Desk;
  readonly #painting: Painting;
  readonly #name: string;
  readonly #place: (picture: { id: string; width: number; height: number }) => void;
  readonly #ends: readonly (() => void)[];
  #timer: ReturnType<typeof setTimeout> | undefined;
  #making: Promise<void> | undefined;
  /** The one after it, where it was asked for already. */
  #next: Promise<void> | undefined;
  #change = 0;
  #isClosed = false;
  /** Of which change the last one is. */
  #madeOf: number | undefined;
  /** Why the last one failed: it is said once. */
  #failed: string | undefined;

  constructor(
    desk: Desk,
    painting: Painting,
    {
      name,
      place,
    }: { name: string; place: (picture: { id: string; width: number; height: number }) => void },
  ) {
    this.#desk = desk;
    this.#painting = painting;
    this.#name = name;
    this.#place = place;
    const onHidden = () => {
      if (document.visibilityState === 'hidden') void this.makeNow().catch(() => {});
    };
    document.addEventListener('visibilitychange', onHidden);
    this.#ends = [
      painting.store.subscribe(() => this.#wait()),
      () => document.removeEventListener('visibilitychange', onHidden),
    ];
  }

  close(): void {
    this.#isClosed = true;
    clearTimeout(this.#timer);
    for (const end of this.#ends) end();
  }

  #wait(): void {
    const { facts } = this.#painting;
    if (!facts?.isAltered || facts.change === this.#change) return;
    this.#change = facts.change;
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => this.#rest(), REST_MS);
  }

  #rest(): void {
    // What was taken and is being carried is not put down for it.
    if (this.#painting.facts?.taken) this.#timer = setTimeout(() => this.#rest(), REST_MS);
    else this.#ask(true).catch((error: Error) => this.#retry(error));
  }

  #retry(error: Error): void {
    if (error.message !== this.#failed) this.#desk.say(error.message);
    this.#failed = error.message;
    if (this.#isClosed || error instanceof TooLarge) return;
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => this.#rest(), AGAIN_MS);
  }

  /** Makes one now, where something was painted since, or none was made yet. @throws Error in words */
  makeNow(): Promise<void> {
    // Who wants one now puts down what one that is being made waits for.
    if (this.#making) this.#painting.putDown();
    return this.#ask(false);
  }

  /** @param waits - until nothing is carried */
  #ask(waits: boolean): Promise<void> {
    clearTimeout(this.#timer);
    if (!this.#making) return this.#makeOne(waits);
    // What was painted since the one that is being made began is in the next: all who ask meanwhile mean that.
    this.#next ??= this.#making
      .catch(() => {})
      .then(() => {
        this.#next = undefined;
        return this.#makeOne(waits);
      });
    return this.#next;
  }

  #makeOne(waits: boolean): Promise<void> {
    const { facts, placement } = this.#painting;
    const isMade = !facts?.isAltered || facts.change === this.#madeOf;
    if (!facts || (isMade && placement)) return Promise.resolve();
    this.#making = this.#make(waits).finally(() => {
      this.#making = undefined;
    });
    return this.#making;
  }

  async #make(waits: boolean): Promise<void> {
    const { sync, session } = this.#desk;
    const { drawing, facts } = this.#painting;
    const { file, change } = await this.#painting.exported('openraster', waits);
    if (file.size > INTAKE_LIMITS.bytes)
      throw new TooLarge('The drawing has grown too large to be sent; it is kept on this computer alone.');
    const { width, height } = facts!;
    const shape = { type: 'image/openraster', width, height } as const;
    const about = { id: drawing, name: this.#name, board: session.id, savedAt: new Date().toISOString() };
    const ora = new File([file], `${this.#name}.ora`, { type: shape.type });
    const kept = await storeVersion(sync, ora, shape, this.#name, about).catch((error: unknown) => {
      const isFull = this.#painting.store.getState().trouble === 'full';
      throw new Error(
        isFull
          ? 'No version could be made: this computer has no room left. It is tried again.'
          : whyNot(error),
      );
    });
    kept.tell();
    this.#painting.versioned(kept.picture, change);
    this.#madeOf = change;
    this.#failed = undefined;
    this.#place({ id: kept.picture, width, height });
  }
}
