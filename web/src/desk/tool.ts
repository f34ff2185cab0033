import type { Desk } from './desk.ts';
import type { SeatOf, ToolOf } from './tool-of.ts';

export type Tool = ToolOf<Desk>;
export type Seat = SeatOf<Desk>;
