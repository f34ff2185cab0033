/** A lead that is no larger than this is none: the equations have no single answer. */
const LEAST_LEAD = 1e-9;

/**
 * Solves `rows · x = right` by elimination with the largest pivot.
 *
 * @param rows - square; altered, as `right` is
 * @param leastLead - a pivot that is no larger is none
 * @returns undefined where there is no single answer
 */
export function solveLinear(rows: number[][], right: number[], leastLead = LEAST_LEAD): number[] | undefined {
  const size = right.length;
  for (let column = 0; column < size; column += 1) {
    let pivot = column;
    for (let row = column + 1; row < size; row += 1)
      if (Math.abs(rows[row]![column]!) > Math.abs(rows[pivot]![column]!)) pivot = row;
    [rows[column], rows[pivot]] = [rows[pivot]!, rows[column]!];
    [right[column], right[pivot]] = [right[pivot]!, right[column]!];
    const head = rows[column]!;
    if (!(Math.abs(head[column]!) > leastLead)) return undefined;
    for (let row = column + 1; row < size; row += 1) {
      const below = rows[row]!;
      const factor = below[column]! / head[column]!;
      if (factor === 0) continue;
      for (let at = column; at < size; at += 1) below[at]! -= factor * head[at]!;
      right[row]! -= factor * right[column]!;
    }
  }
  const solution = new Array<number>(size).fill(0);
  for (let row = size - 1; row >= 0; row -= 1) {
    let sum = right[row]!;
    for (let at = row + 1; at < size; at += 1) sum -= rows[row]![at]! * solution[at]!;
    solution[row] = sum / rows[row]![row]!;
  }
  return solution;
}
