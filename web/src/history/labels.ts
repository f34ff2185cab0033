/** Something to be written along a line. */
export interface Label {
  readonly key: string;
  readonly text: string;
  /** CSS pixels from the start of the line. */
  readonly x: number;
  /** Wins over others where there is no room for both. */
  readonly isName: boolean;
}

const PER_LETTER_PX = 7.4;
const LEAST_PX = 44;
const MOST_PX = 150;
const GAP_PX = 10;

export interface PlacedLabel extends Label {
  /** Where it is written, and how wide it may be, CSS pixels. */
  readonly left: number;
  readonly width: number;
}

/** Chooses what can be written along a line without one word over another: names first, then from the right, where now is. */
export function placeLabels(labels: readonly Label[], widthPx: number): PlacedLabel[] {
  const placed: PlacedLabel[] = [];
  const inOrder = [...labels].sort((a, b) => Number(b.isName) - Number(a.isName) || b.x - a.x);
  for (const label of inOrder) {
    const wanted = Math.min(MOST_PX, Math.max(LEAST_PX, label.text.length * PER_LETTER_PX));
    const width = Math.min(wanted, widthPx);
    const left = Math.max(0, Math.min(label.x, widthPx - width));
    const isFree = placed.every(
      (other) => left >= other.left + other.width + GAP_PX || left + width + GAP_PX <= other.left,
    );
    if (isFree) placed.push({ ...label, left, width });
  }
  return placed.sort((a, b) => a.left - b.left);
}
