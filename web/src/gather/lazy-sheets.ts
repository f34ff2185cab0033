import type { ComponentType } from 'react';
import { later } from '../shell/index.ts';

const sheets = () => import('./sheets/index.ts');

/**
 * A sheet that is asked for when it is opened: a board that is being looked at needs none. Not one that is typed into: a
 * hand types on at once after its key, and letters that come before the sheet would be commands.
 */
const lazily = <Props extends object>(
  of: (all: Awaited<ReturnType<typeof sheets>>) => ComponentType<Props>,
) => later(async () => of(await sheets()), { isSheet: true });

export const BoardFileSheet = lazily((all) => all.BoardFileSheet);
export const CameraSheet = lazily((all) => all.CameraSheet);
export const GrabSheet = lazily((all) => all.GrabSheet);
export const PickingSheet = lazily((all) => all.PickingSheet);

/** Has them at hand from now on, also when the server is away. */
export const loadSheets = (): Promise<unknown> => sheets();
