import { keysBelow } from '@miradero/core/board';
import { pixelsOfSheet } from '@miradero/core/easel';
import { heightOf, isPlacement, type Placement, shownInstead } from '@miradero/core/items';
import type { Operation } from '@miradero/core/schema';
import type { Desk } from '../../desk/index.ts';
import { keepFile, shapeOrWhy, whyNot } from '../../gather/index.ts';
import { UnreachableError } from '../../sync/index.ts';
import { sheetOf } from '../sheet-of.ts';
import { drawingNamed } from './drawing-named.ts';
import { placementOf } from './followed-drawings.ts';

const ON_PAPER = 'On paper';

/** The original of a picture, from this computer where it has not been sent yet. */
async function originalOf(desk: Desk, { picture }: Placement): Promise<File> {
  const known = desk.sync.shelf.get(picture);
  if (known?.file) return new File([known.file.bytes], known.file.fileName, { type: known.file.type });
  const answer = await fetch(`/api/pictures/${picture}/original`);
  if (!answer.ok) throw new Error('The picture does not come from the server.');
  const blob = await answer.blob();
  return new File([blob], known?.picture?.fileName ?? 'paper', { type: blob.type });
}

/** Lets the drawing stand on its sheet as a photograph shows it: in the place of the photograph before, or as large as the sheet. */
function showAsDrawing(desk: Desk, photograph: Placement, drawing: string): void {
  const { session } = desk;
  const before = placementOf(desk, drawing);
  if (before) {
    const { picture: id, pictureWidth: width, pictureHeight: height, trim } = photograph;
    const set = { ...shownInstead({ ...before, trim }, { id, width, height }), trim };
    session.commit([
      { item: before.id, set },
      { item: photograph.id, set: { removed: true } },
    ]);
    return;
  }
  const sheet = sheetOf(desk)!;
  const { trimmed } = pixelsOfSheet(sheet.setup);
  const scale = Math.min(trimmed.width / photograph.width, trimmed.height / heightOf(photograph));
  const [stack] = keysBelow(session.standing, 1);
  const set = { drawing, stack: stack!, centre: sheet.centre, turn: 0, isFixed: true };
  session.commit([
    { item: photograph.id, set: { ...set, width: photograph.width * scale } } satisfies Operation,
  ]);
}

/** Makes the picture that is selected the newest version of what is drawn on paper. */
export async function takeAsDrawing(desk: Desk): Promise<void> {
  const [photograph, ...others] = desk.targets.filter(isPlacement).filter(({ drawing }) => !drawing);
  if (!sheetOf(desk)) {
    desk.say('On a sheet of the easel a photograph of paper can be its drawing.');
    return;
  }
  if (!photograph || others.length > 0) {
    desk.say('Select the one photograph that shows the drawing.');
    return;
  }
  const kind = desk.sync.shelf.get(photograph.picture)?.picture?.kind ?? 'still';
  if (kind !== 'still') {
    desk.say('What moves or turns is no drawing: a still picture is.');
    return;
  }
  const board = desk.session.id;
  try {
    const id = await drawingNamed(board, ON_PAPER);
    const file = await originalOf(desk, photograph);
    const shape = await shapeOrWhy(file);
    if (typeof shape === 'string') throw new Error(shape);
    const name = desk.sync.shelf.get(photograph.picture)?.name ?? ON_PAPER;
    const drawing = { id, name: ON_PAPER, board, savedAt: new Date().toISOString() };
    await keepFile(desk.sync, file, shape, name, { drawing });
    showAsDrawing(desk, photograph, id);
    desk.say('This is the drawing now.', ['A later photograph becomes its next version.']);
  } catch (error) {
    if (error instanceof DOMException) desk.say(whyNot(error));
    else if (error instanceof UnreachableError || error instanceof TypeError)
      desk.say('The server is away.', ['It can be made the drawing once it is back.']);
    else desk.say((error as Error).message);
  }
}
