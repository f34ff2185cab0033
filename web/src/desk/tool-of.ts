import type { Meant } from '@miradero/core/freehand';
import type { Point, Rectangle } from '@miradero/core/geometry';
import type { ComponentType } from 'react';
import type { Drag, Press, StageView } from '../stage/index.ts';

/** One stage that tools work on: the board's own, or the perch's. */
export interface SeatOf<Desk> {
  readonly desk: Desk;
  readonly view: StageView;
  /** What a drag is marking right now. */
  readonly marks: Marks;
  /** Shows what a drag is marking; nothing clears it. */
  mark(marks: Partial<Marks>): void;
  /** Moves the view on while something is dragged at its edge, and calls back after each step. */
  followEdge(point: Point, onMoved: () => void): void;
  leaveEdge(): void;
  /** Presses something on an item that can be: a box, with `isFollowing` a link. @returns whether there was something */
  tap?(item: string, point: Point, pointerType: string, isFollowing: boolean): boolean;
}

/** A line along which dragged things lie; see `alignTo`. Board units. */
export interface GuideLine {
  readonly kind: 'edge' | 'centre' | 'gap';
  readonly from: Point;
  readonly to: Point;
}

export interface Marks {
  /** CSS pixels of the view. */
  readonly band: Rectangle | undefined;
  /** Corners of what a trim in the making keeps, board units. */
  readonly trim: readonly Point[] | undefined;
  /** A line drawn along something, board units. */
  readonly line: readonly [Point, Point] | undefined;
  readonly guides: readonly GuideLine[];
  /** What the drag comes to, beside the pointer. */
  readonly figure: { readonly text: string; readonly at: Point } | undefined;
}

/** What can be done right now: a title for what it is done to, actions, a word on what the hand may do. */
export interface Offer {
  readonly title: string;
  /** Ids of actions. */
  readonly ids: readonly string[];
  /** Of all actions those whose state holds right now. */
  readonly on?: readonly string[];
  readonly hint?: string;
}

/**
 * What the hand does on a stage. A tool is taken, works on whatever stages show the desk's board, and is left; while none is
 * taken the hand selects. Positions are CSS pixels of the view.
 */
export interface ToolOf<Desk> {
  readonly id: string;
  /** A press; what it returns has the pointer until it is let go. */
  press(seat: SeatOf<Desk>, press: Press): Drag | undefined;
  /** The cursor over a point, as CSS names it; undefined for the ordinary one. */
  hover?(seat: SeatOf<Desk>, point: Point, pointerType: string): string | undefined;
  /** The pointer left the stage. */
  out?(seat: SeatOf<Desk>): void;
  double?(seat: SeatOf<Desk>, point: Point): void;
  /** The wheel was turned by a zoom of `factor`; without this it zooms. */
  wheel?(seat: SeatOf<Desk>, factor: number): void;
  /** Draws above the pictures, CSS pixels of the view. */
  overlay?(seat: SeatOf<Desk>, context: CanvasRenderingContext2D): void;
  offer(desk: Desk): Offer;
  /** An arrow was pressed; without this it nudges what is selected. @param isFar - with Shift */
  arrow?(desk: Desk, to: 'left' | 'right' | 'up' | 'down', isFar: boolean): void;
  /** Enter. */
  confirm?(desk: Desk): void;
  /** Escape. @returns whether something was taken back; else the tool is left */
  back?(desk: Desk): boolean;
  /** Delete; without this what is selected is removed. */
  remove?(desk: Desk): void;
  /** All is selected; without this all that stands on the board. */
  selectAll?(desk: Desk): void;
  /** What it works on is gone or no longer selected: it is left. */
  isOver?(desk: Desk): boolean;
  /** Undo or redo is of what it does. @returns false where it is of the board's steps */
  step?(desk: Desk, side: 'undo' | 'redo'): boolean;
  /** Undefined: it is of the board's steps. */
  canStep?(side: 'undo' | 'redo'): boolean | undefined;
  /** What was drawn with it last becomes what it is meant as. */
  mean?(desk: Desk, as: Meant): void;
  /** Called once, when it is left: what is under way is made or dropped. */
  leave?(desk: Desk): void;
  /** It alters nothing: it can be taken where nothing can be altered, too. */
  readonly onlyLooks?: boolean;
  /** Values and colours under the pointer are told nowhere while it is taken. */
  readonly hidesValues?: boolean;
  /** A class of the stage while it is taken. */
  readonly stageClass?: string;
  /** What it shows above the stage beside what it draws. */
  readonly Surface?: ComponentType<{ readonly desk: Desk; readonly view: StageView }>;
}
