import { isCluster, isPictureMark, isWorkingSet } from '@miradero/core/items';
import type { Board, Drawing, Placement } from '@miradero/core/schema';
import { PAGE_AT_THE_EASEL, STUDY_OF_LANTERN } from '../../demo/at-the-easel.ts';
import { BOARDS } from '../../demo/boards.ts';
import { loadDemo } from '../../demo/load.ts';
import { TestBoard } from '../support/board.ts';
import { demoTemplate } from '../support/demo-template.ts';
import { startRunning } from '../support/running.ts';
import { expect, test } from '../support/test.ts';

test('the demo comes in through the real intake, once: four boards and a sheet as they were set out', async ({
  page,
}) => {
  test.setTimeout(1_500_000);
  // Taken in by `loadDemo`, in a server that has ended since.
  const running = await startRunning(await demoTemplate());
  try {
    const listed = async () => {
      const { boards } = (await (await fetch(`${running.address}/api/boards`)).json()) as { boards: Board[] };
      return boards.map(({ id, name, revision }) => ({ id, name, revision }));
    };
    const boards = await listed();
    const sheet = PAGE_AT_THE_EASEL;
    expect(boards.map(({ name }) => name).sort()).toEqual(
      [...BOARDS.map(({ name }) => name), sheet.name, STUDY_OF_LANTERN.name].sort(),
    );
    const onSheet = await new TestBoard(running.address, sheet.id).standing();
    expect(onSheet.filter(({ kind }) => kind === 'sheet')).toHaveLength(1);
    expect(onSheet.filter(({ kind }) => kind === 'placement')).toHaveLength(1 + sheet.references.length);
    const { drawings } = (await (
      await fetch(`${running.address}/api/boards/${sheet.id}/drawings`)
    ).json()) as { drawings: Drawing[] };
    expect(drawings.map(({ versions }) => versions.length)).toEqual([sheet.saves.length]);

    const placements: Placement[] = [];
    for (const {
      id,
      rows,
      notes,
      clusters = [],
      cards = [],
      stages = [],
      palettes = [],
      balls = [],
      drawn = [],
      choices,
    } of BOARDS) {
      const standing = await new TestBoard(running.address, id).standing();
      const hung = standing.filter((item): item is Placement => item.kind === 'placement');
      // What a partner chose stands there once more, with what was said of it, in clusters of theirs.
      const chosen = choices ? choices.yes.length + choices.no.length : 0;
      const titles = choices ? [`${choices.by}: no`, `${choices.by}: yes`] : [];
      expect(hung).toHaveLength(rows.flatMap(({ pictures }) => pictures).length + chosen);
      const others = [notes, clusters, cards, stages, palettes, balls, drawn].reduce(
        (sum, { length }) => sum + length,
        titles.length + (choices?.remarks.length ?? 0),
      );
      expect(standing.length - hung.length).toBe(others);
      const here = new Set(hung.map((item) => item.id));
      expect(standing.filter(isPictureMark).every(({ on }) => here.has(on))).toBe(true);
      const sets = standing.filter(isWorkingSet).sort((a, b) => (a.stack < b.stack ? -1 : 1));
      expect(sets.map(({ title, members }) => [title, members.length])).toEqual(
        stages.map(({ title, holds }) => [title, holds.length]),
      );
      expect(sets.flatMap(({ members }) => members).every((member) => here.has(member))).toBe(true);
      expect(
        standing
          .filter(isCluster)
          .map(({ title }) => title)
          .sort(),
      ).toEqual([...clusters.map(({ title }) => title), ...titles].sort());
      placements.push(...hung);
    }
    expect(placements.some(({ flipX }) => flipX)).toBe(true);
    expect(placements.some(({ trim }) => trim.width < 1)).toBe(true);

    await loadDemo(running.address);
    expect(await listed()).toEqual(boards);

    for (const { id, name } of BOARDS) {
      await page.goto(`${running.address}/boards/${id}`);
      await expect(page.getByRole('textbox', { name: 'Name of the board' })).toHaveValue(name);
      await expect(page.locator('[data-stage]').first()).toBeVisible();
    }
  } finally {
    await running.stop();
  }
});
