import type { Point } from '@miradero/core/geometry';
import type { StrokeStart } from '@miradero/core/items';
import type { AboutDrawing, Change, PictureSource, TakenOfModel } from '@miradero/core/schema';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import type { KeptStep } from './steps/kept-step.ts';

/** Something to send, in the order in which it was made. */
export type OutboxEntry =
  | {
      seq?: number;
      kind: 'change';
      board: string;
      change: Change;
      /** Changes of one burst of keys are joined, as long as they are not sent. */
      burst?: string;
      /** It was taken to be sent: what follows is a change of its own. */
      isTaken?: true;
    }
  /**
   * `id` is given by the outbox. `awaits`: a picture that must have arrived at the server first; `onlyNew`: it is meant for
   * it only where it was not there before, which is known when it arrives.
   */
  | {
      seq?: number;
      kind: 'patch';
      id?: string;
      path: string;
      body: object;
      awaits?: string;
      onlyNew?: true;
    };

/** A change among what is to be sent. */
export type ChangeEntry = Extract<OutboxEntry, { kind: 'change' }>;

/** A picture whose bytes this browser keeps until the server has them. */
export interface WaitingFile {
  id: string;
  fileName: string;
  name: string;
  type: string;
  width: number;
  height: number;
  bytes: Blob;
  addedAt: string;
  /** Where it comes from, as far as this browser was told. */
  source?: Partial<PictureSource>;
  /** mm, of a sheet of paper that was squared. */
  paperMm?: { width: number; height: number };
  taken?: TakenOfModel;
  /** It is a version of a drawing that is followed. */
  drawing?: AboutDrawing;
  /** What stands for a clip or a model. */
  poster?: Blob;
  /** Why the server did not take it; such a file is not sent again. */
  refusal?: string;
}

/**
 * Something in the web that shall come in: kept until it is there, so that a closed browser loses nothing. `look`: what
 * lies at the address is not known; `take`: a picture; `larger`: it is here, and its link leads to a larger one.
 */
export interface Errand {
  id: string;
  stage: 'look' | 'take' | 'larger';
  address: string;
  page?: string;
  link?: string;
  name?: string;
  title?: string;
  creator?: string;
  licence?: string;
  /** Of the place to look that it is from. */
  tag?: string;
  /** Where it shall stand; none: the landing. */
  board?: string;
  centre?: Point;
  /** board units² that it shall cover */
  area?: number;
  /** The placement and picture that are to be exchanged for the larger one. */
  item?: string;
  picture?: string;
  /** Why it did not come; such an errand waits until it is tried again. */
  trouble?: string;
  addedAt: string;
}

/** Something that the server did not take, with all that it held: it can be tried again, or thrown away. */
export interface RefusedChange {
  id: string;
  board: string;
  title: string;
  at: string;
  /** Not there for what an earlier version was refused. */
  entry?: OutboxEntry;
}

/** A stroke under a hand, as far as it was drawn: whoever ends in the middle of it loses no more than its last moment. */
export interface UnfinishedStroke {
  /** Of the mark that it becomes. */
  id: string;
  board: string;
  /** On the board; the mark is made of it when it is taken up. */
  drawn: StrokeStart;
  isOnPictures: boolean;
}

/** A file on this computer that is followed, read again at each of its saves. */
export interface FollowedFile {
  /** The drawing's. */
  id: string;
  board: string;
  name: string;
  handle: FileSystemFileHandle;
  /** As it was seen when its newest version was read. */
  read?: { bytes: number; modifiedMs: number };
}

interface Schema extends DBSchema {
  followed: { key: string; value: FollowedFile };
  strokes: { key: string; value: UnfinishedStroke };
  outbox: { key: number; value: OutboxEntry };
  files: { key: string; value: WaitingFile; indexes: { refusal: string } };
  refused: { key: string; value: RefusedChange };
  errands: { key: string; value: Errand };
  steps: { key: [string, number]; value: KeptStep };
}

export type BrowserDatabase = IDBPDatabase<Schema>;

/** Written through to the disk: "kept on this computer" must hold after a power cut, too. */
export const DURABLE = { durability: 'strict' } as const;

/**
 * Opens what this browser keeps of one server database; another database (a fresh install) has its own.
 *
 * @param onTakenOver - called when a later version of the application takes the store over: it is closed here
 */
export function openBrowserDatabase(
  databaseId: string,
  onTakenOver: () => void = () => {},
): Promise<BrowserDatabase> {
  return openDB<Schema>(`miradero-${databaseId}`, 6, {
    upgrade(database, before, _after, transaction) {
      if (before < 1) {
        database.createObjectStore('outbox', { keyPath: 'seq', autoIncrement: true });
        database.createObjectStore('files', { keyPath: 'id' });
        database.createObjectStore('refused', { keyPath: 'id' });
      }
      if (before < 2) database.createObjectStore('errands', { keyPath: 'id' });
      if (before < 3) database.createObjectStore('steps', { keyPath: ['window', 'number'] });
      if (before < 5) database.createObjectStore('strokes', { keyPath: 'id' });
      if (before < 6) database.createObjectStore('followed', { keyPath: 'id' });
      // Holds those that were refused, so that they are counted without being read.
      if (before < 4) transaction.objectStore('files').createIndex('refusal', 'refusal');
    },
    // A later version of the application wants to alter the stores: let it.
    blocking: (_current, _blocked, event) => {
      (event.target as IDBDatabase).close();
      onTakenOver();
    },
  });
}
