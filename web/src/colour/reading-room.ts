import type { Desk } from '../desk/index.ts';
import { ReadingTool } from './reading-tool.ts';
import { canGrabScreen, canReadScreen } from './readings.ts';

/** What reads colours on a desk, taken where it is not yet. */
function toolOn(desk: Desk): ReadingTool {
  if (desk.tool instanceof ReadingTool) return desk.tool;
  const tool = new ReadingTool(desk);
  desk.take(tool);
  return tool;
}

/** Reads what is under the pointer, or in the middle of what is selected, and goes on reading until it is left. */
export function readColour(desk: Desk): void {
  void toolOn(desk).readHere();
}

/** A key held longer than this picks; shorter, it takes the tool. */
const HELD_MS = 350;
let heldSinceMs: number | undefined;
/** Where it is held: let go it may be over another board. */
let heldOn: Desk | undefined;

/** While the key is held, what is under the pointer is read. */
export function holdReading(desk: Desk): void {
  heldSinceMs = undefined;
  if (desk.tool instanceof ReadingTool) return;
  heldSinceMs = performance.now();
  heldOn = desk;
  const tool = new ReadingTool(desk);
  desk.takeMeanwhile(tool);
  tool.readUnder();
}

/** Let go, what is under the pointer is picked, and the hand goes on with what it did. */
export function letGoReading(): void {
  const desk = heldOn;
  heldOn = undefined;
  if (heldSinceMs === undefined || !(desk?.tool instanceof ReadingTool)) return;
  const isHeld = performance.now() - heldSinceMs >= HELD_MS;
  heldSinceMs = undefined;
  const tool = desk.tool;
  const picked = isHeld ? tool.pick() : Promise.resolve(undefined);
  desk.leaveMeanwhile(tool);
  void picked.then((hex) => {
    if (hex) desk.say(`Picked and copied: ${hex}.`);
  });
}

/** Reads a colour from anywhere on the screen. */
export function readFromScreen(desk: Desk): void {
  if (canReadScreen(window)) void toolOn(desk).readScreen();
  else if (canGrabScreen(navigator)) toolOn(desk).showScreen(true);
  else desk.say('This browser reads no colours from the screen.', ['K reads those of pictures.']);
}

export { openColourSheet } from './colour-sheets.ts';
export { bringPalette, comparePalettes, mergePalettes, paletteHere } from './palette-tool.ts';
