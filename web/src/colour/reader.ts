import type { Desk } from '../desk/index.ts';
import type { Readable } from '../state/index.ts';
import type { Reading } from './readings.ts';
import type { AreaSize } from './settings.ts';

/** What is shown while colours are read. */
export interface ReadingShown {
  /** Under the pointer right now. */
  readonly live: Reading | undefined;
  /** What was pressed last, and before that. */
  readonly held: Reading | undefined;
  readonly before: Reading | undefined;
  /** What was copied, as it was written. */
  readonly copied: string | undefined;
  readonly trouble: string | undefined;
  /** What is pressed is hidden until it was guessed by eye. */
  readonly isGuessing: boolean;
  /** A frozen screen is open to be read. */
  readonly isScreenOpen: boolean;
}

/** What reads colours, as its card knows it. */
export interface Reader {
  readonly store: Readable<ReadingShown>;
  /** The same place is read again, in another size. */
  readAgain(sizePx: AreaSize): Promise<void>;
  /** Copies what is held, as it is written by the chosen notation where nothing else is given. */
  copy(text?: string): Promise<void>;
  /** Hides what is pressed until it was guessed, or shows all again. */
  toggleGuessing(): void;
  /** Opens a frozen screen, or closes it. */
  showScreen(isOpen: boolean): void;
  /** What was read of a screen is held. */
  holdScreen(reading: Reading): Promise<void>;
  /** Forgets what was read. */
  forget(): void;
  /** What is held stays on the picture. */
  confirm(desk: Desk): void;
}
