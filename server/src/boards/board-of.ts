import type { Board } from '@miradero/core/schema';
import { findBoard } from '../database/boards.ts';
import type { Knex } from '../database/connection.ts';
import { ProblemError } from '../requests/problem.ts';

/** @throws ProblemError `board-missing` */
export async function boardOf(knex: Knex, owner: string, id: string): Promise<Board> {
  const board = await findBoard(knex, owner, id);
  if (!board) throw new ProblemError('board-missing');
  return board;
}
