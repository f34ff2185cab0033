import type { Point, Rectangle } from '@miradero/core/geometry';
import {
  type AlteredParts,
  filledMask,
  fillFrom,
  lassoMask,
  Moving,
  PaintedSheet,
  type PaintStep,
  paintArea,
  type Rgb8,
  type TilePixels,
  tilePlace,
  wholeTiles,
} from '@miradero/core/paint';
import { whyOf } from '@miradero/core/text';
import type {
  AreaWish,
  FromPaint,
  LayerAct,
  PaintFacts,
  SheetFormat,
  StudiedPart,
  ToPaint,
} from '../messages.ts';
import { Keeping, type Kept } from './keeping.ts';
import { type SheetContent, sheetOfOpenRaster } from './openraster-file.ts';
import { blank, paintedSheet, pixelsOf, restorePast, rowsOf, tileOfPicture } from './sheets.ts';
import { Showing } from './showing.ts';
import { type Over, UnderWay } from './under-way.ts';

/** How much of a sheet is bare is counted so long after it was painted, ms. */
const COUNT_AFTER_MS = 400;

/** So soon a page says where it looks after it heard that a sheet is opened, ms, or it is not waited for. */
const LOOK_WITHIN_MS = 100;

type Tell = (message: FromPaint, transfer?: Transferable[]) => void;
type Open = Extract<ToPaint, { kind: 'open' }>;
/** What is done to an open sheet. */
type Told = Exclude<ToPaint, { kind: 'open' | 'file' }>;

/** One sheet that is painted: hears of the hand, tells what is seen. */
export class PaintRoom {
  readonly #tell: Tell;
  #sheet!: PaintedSheet;
  #showing!: Showing;
  #keeping: Keeping | undefined;
  #size = { width: 1, height: 1, ppi: 72 };
  #reference: StudiedPart | null = null;
  #version: string | null = null;
  #versionChange = 0;
  #change = 0;
  #underWay: UnderWay | undefined;
  /** What the stroke that was made last did, if anything. */
  #stroke: PaintStep | undefined;
  /** Files that are made once nothing is under way. */
  #waiting: Extract<ToPaint, { kind: 'export' }>[] = [];
  #takes = 0;
  #countTimer: ReturnType<typeof setTimeout> | undefined;
  #bare: number | null = null;

  #tellLook: () => void = () => {};
  readonly #look: Promise<void>;
  #comeFile: (file: Blob | null) => void = () => {};
  readonly #file: Promise<Blob | null>;

  constructor(tell: Tell) {
    this.#tell = tell;
    this.#look = new Promise((come) => {
      this.#tellLook = come;
    });
    this.#file = new Promise((come) => {
      this.#comeFile = come;
    });
  }

  async open({ drawing, keeper, version, fresh }: Open): Promise<void> {
    const keeping = new Keeping(
      keeper,
      () => ({
        sheet: this.#sheet,
        about: {
          ...this.#size,
          ...{ reference: this.#reference, version: this.#version },
          ...{ change: this.#change, isAltered: this.#isAltered || this.#underWay?.isAnything === true },
        },
        underWay: this.#underWay?.changes ?? [],
      }),
      (file) => this.#tell(file),
      (trouble, isKept) => this.#tell({ kind: 'keeping', trouble, isKept }),
    );
    this.#keeping = keeping;
    try {
      const kept = await keeping.read(drawing);
      // What was painted here and is no version yet goes before one that was made elsewhere.
      const isNewest =
        kept && (kept.state.isAltered || kept.state.version === version || !(await this.#file));
      if (isNewest && (await this.#restore(kept, keeping))) return;
      const file = await this.#file;
      if (file) this.#begin(await sheetOfOpenRaster(new Uint8Array(await file.arrayBuffer())), version);
      else if (fresh) this.#begin(blank(fresh), version);
      else throw new Error('Its newest version does not come from the server.');
    } catch (error) {
      this.#keeping = undefined;
      this.#tell({ kind: 'unopened', why: whyOf(error) });
      return;
    }
    keeping.start();
    this.#tellOpened();
    this.#showing.arrive([...this.#showing.allKeys()]);
    this.#arrived();
  }

  #tellOpened(): void {
    this.#showing = new Showing(this.#sheet, this.#size, this.#tell);
    this.#underWay = new UnderWay(this.#sheet, this.#showing, this.#keeping);
    this.#tell({ kind: 'opened', facts: this.#facts(), coarse: this.#showing.coarse });
  }

  /** All of the sheet is there. */
  #arrived(): void {
    this.#keeping?.touch();
    this.#countTimer = setTimeout(() => this.#count(), COUNT_AFTER_MS);
  }

  /** Its newest version has come, or there is none. */
  come(file: Blob | null): void {
    this.#comeFile(file);
  }

  hear(message: Told): void {
    try {
      this.#do(message);
    } catch (error) {
      this.#tell({ kind: 'refused', why: whyOf(error) });
    }
  }

  #do(message: Told): void {
    switch (message.kind) {
      case 'begin':
        this.#settle();
        if (message.isInstead) this.#takeStrokeBack();
        this.#underWay?.begin(message.wish);
        return;
      case 'way':
        this.#underWay?.goOn(message.points, message.number);
        return;
      case 'end':
      case 'settle':
        this.#settle();
        return;
      case 'cancel':
        this.#over(this.#underWay?.cancel());
        return;
      case 'undo':
      case 'redo':
        this.#turn(message.kind);
        return;
      case 'lasso':
        this.#paintMask(message.wish, lassoMask(message.corners, this.#sheet.frame));
        return;
      case 'fill':
        this.#fill(message.wish, message.at, message.gapPx);
        return;
      case 'take':
        this.#take(message);
        return;
      case 'carry':
        this.#underWay?.carry(message.to);
        return;
      case 'layers':
        this.#alterLayers(message.what);
        return;
      case 'look':
        this.#tellLook();
        this.#keeping?.busy();
        this.#showing.look(message.window);
        return;
      case 'export':
        // A stroke is done first: it is nobody's to end.
        if (this.#underWay?.isStroke || (message.waits && this.#underWay?.isCarrying))
          this.#waiting.push(message);
        else this.#export(message.ask, message.as);
        return;
      case 'keep': {
        const tellKept = () => this.#tell({ kind: 'kept', ask: message.ask });
        if (this.#keeping) this.#keeping.keep(tellKept);
        else tellKept();
        return;
      }
      case 'versioned':
        this.#version = message.version;
        this.#versionChange = message.change;
        // At once: where everything ends before, it would be made a version once more.
        this.#keeping?.keep(() => {});
        this.#tellFacts();
        return;
      case 'discard':
        this.#over(this.#underWay?.discard());
        return;
      case 'shrink':
        this.#shrink(message.by);
        return;
      case 'show-bare':
        this.#showing.showBare(message.isShown);
        return;
      case 'ground':
        this.#tone(message.colour, message.picture);
        return;
    }
  }

  get #isAltered(): boolean {
    return this.#change !== this.#versionChange;
  }

  #begin({ width, height, ppi, reference, layers }: SheetContent, version: string | null): void {
    this.#reference = reference;
    this.#size = { width, height, ppi };
    this.#version = version;
    this.#change = 0;
    this.#versionChange = 0;
    this.#sheet = paintedSheet(width, height, layers);
  }

  /** Goes on with what was kept, which is shown as it comes. @returns whether all of it could be read */
  async #restore({ state, rows, past }: Kept, keeping: Keeping): Promise<boolean> {
    const { width, height, ppi, version, change, isAltered } = state;
    this.#reference = state.reference;
    this.#size = { width, height, ppi };
    this.#version = version;
    this.#change = change;
    this.#versionChange = isAltered ? -1 : change;
    this.#sheet = new PaintedSheet(state.frame, state.layers);
    this.#tellOpened();
    const places = rowsOf(state);
    const isIn = (row: number) => places.has(row);
    this.#showing.arrive([...this.#showing.allKeys()].filter((key) => !isIn(tilePlace(key).row)));
    const numbered = new Map<number, TilePixels>();
    // Where the page looks is known by then: no row is laid together twice.
    await Promise.race([this.#look, new Promise((go) => setTimeout(go, LOOK_WITHIN_MS))]);
    try {
      for await (const { row, tiles } of rows) {
        for (const { tile, pixels } of tiles) numbered.set(tile, pixels);
        for (const { layer, key, tile } of places.get(row) ?? [])
          this.#sheet.layer(layer).tiles.set(key, numbered.get(tile));
        this.#showing.arrive([...this.#showing.allKeys()].filter((key) => tilePlace(key).row === row));
      }
    } catch {
      return false;
    }
    this.#arrived();
    void past.then((tiles) => {
      for (const { tile, pixels } of tiles ?? []) numbered.set(tile, pixels);
      if (tiles) restorePast(this.#sheet, state, numbered);
      keeping.start();
      this.#tellFacts();
    });
    return true;
  }

  #facts(): PaintFacts {
    const { history, facts } = this.#sheet;
    return {
      ...this.#size,
      layers: facts,
      ...{ canUndo: history.canUndo, canRedo: history.canRedo },
      ...{ change: this.#change, isAltered: this.#isAltered, bare: this.#bare },
      reference: this.#reference,
      taken: this.#underWay?.taken ?? null,
      takes: this.#takes,
    };
  }

  #tellFacts(): void {
    this.#tell({ kind: 'facts', facts: this.#facts() });
  }

  /** Something was done, or tried: it is told, and kept. @param isChange - the sheet is another than it was before */
  #done(altered: AlteredParts, isChange = true): void {
    if (isChange) this.#change += 1;
    this.#showing.show(altered, null);
    this.#keeping?.touch();
    this.#tellFacts();
    clearTimeout(this.#countTimer);
    this.#countTimer = setTimeout(() => this.#count(), COUNT_AFTER_MS);
  }

  #export(ask: number, as: SheetFormat): void {
    this.#settle();
    this.#keeping?.export(ask, as);
  }

  #makeWhatWaits(): void {
    for (const { ask, as } of this.#waiting.splice(0)) this.#export(ask, as);
  }

  #count(): void {
    if (this.#underWay?.isAnything) return;
    const { bare } = this.#sheet;
    if (bare === this.#bare) return;
    this.#bare = bare;
    this.#tellFacts();
  }

  // What is under way

  /** It is over: taken up, or as if it had not been. */
  #over(over: Over | undefined): void {
    if (!over) return;
    this.#done(over.altered, over.isRecorded);
    this.#makeWhatWaits();
  }

  /** Takes up what is under way before something else is begun. */
  #settle(): void {
    const isStroke = this.#underWay?.isStroke;
    const over = this.#underWay?.end();
    if (isStroke) this.#stroke = over?.isRecorded ? this.#sheet.history.done.at(-1) : undefined;
    this.#over(over);
  }

  /** The stroke that was made last is not there, unless it left nothing or something was done since. */
  #takeStrokeBack(): void {
    if (this.#stroke && this.#stroke === this.#sheet.history.done.at(-1)) this.#turn('undo');
  }

  #take({ layer, corners, number }: Extract<ToPaint, { kind: 'take' }>): void {
    this.#settle();
    this.#takes = number;
    if (!this.#underWay?.take(layer, corners))
      this.#tell({ kind: 'refused', why: 'Nothing is painted there on this layer.' });
    this.#tellFacts();
  }

  // Areas

  #paintMask({ layer, colour, opacity }: AreaWish, mask: ReturnType<typeof lassoMask>): void {
    this.#settle();
    const changes = paintArea(this.#sheet.layer(layer), mask, { colour, opacity }, this.#sheet.frame);
    mask.release();
    const isRecorded = this.#sheet.record(changes);
    this.#done(wholeTiles(changes.map(({ key }) => key)), isRecorded);
  }

  #fill(wish: AreaWish, { x, y }: Point, gapPx: number): void {
    this.#settle();
    const { width, height } = this.#size;
    const [column, row] = [Math.floor(x), Math.floor(y)];
    if (column < 0 || row < 0 || column >= width || row >= height) return;
    const seen = pixelsOf(this.#sheet, this.#showing.allKeys());
    const filled = fillFrom(seen, { x: column, y: row, tolerance: FILL_TOLERANCE, gapPx });
    this.#paintMask(wish, filledMask(filled, width, this.#sheet.frame));
  }

  /** All that is painted becomes smaller about the middle of the sheet, so that there is room around it. */
  #shrink(by: number): void {
    this.#settle();
    const { frame, layers } = this.#sheet;
    const [x, y] = [frame.width / 2, frame.height / 2];
    const whole = lassoMask(cornersOf(frame), frame);
    const changes = layers.flatMap((layer) => {
      const moving = layer.isLocked ? undefined : Moving.of(layer, whole, frame);
      moving?.show([by, 0, 0, by, x * (1 - by), y * (1 - by)]);
      return moving?.end() ?? [];
    });
    const isRecorded = this.#sheet.record(changes);
    this.#done(wholeTiles(changes.map(({ key }) => key)), isRecorded);
  }

  /** The ground takes another colour, and is painted under. */
  #tone(colour: Rgb8 | null, picture: ImageBitmap | null): void {
    this.#settle();
    const ground = this.#sheet.layers.find(({ kind }) => kind === 'ground');
    if (!ground) return;
    this.#sheet.tone(ground.id, colour, (key) =>
      picture ? tileOfPicture(picture, key, this.#size) : undefined,
    );
    picture?.close();
    this.#done(wholeTiles(this.#showing.allKeys()));
  }

  // Layers, and back and forth

  #alterLayers(what: LayerAct): void {
    this.#settle();
    const sheet = this.#sheet;
    if (what.act === 'alter') sheet.alter(what.id, what.facts, what.goesOn);
    else if (what.act === 'add') sheet.add(what.id, what.layer, what.above);
    else if (what.act === 'remove') sheet.remove(what.id);
    else if (what.act === 'move') sheet.move(what.id, what.to);
    else sheet.merge(what.id);
    this.#done(wholeTiles(this.#showing.allKeys()));
  }

  #turn(side: 'undo' | 'redo'): void {
    if (this.#underWay?.isAnything) {
      // What is under way is what is taken back.
      if (side === 'undo') this.#over(this.#underWay.cancel());
      return;
    }
    const step = side === 'undo' ? this.#sheet.undo() : this.#sheet.redo();
    if (!step) return;
    this.#done(wholeTiles(step.layers ? this.#showing.allKeys() : step.tiles.map(({ key }) => key)));
  }
}

/** Colours that differ by so much in a channel are taken for the same while an area is filled, of 255. */
const FILL_TOLERANCE = 24;

const cornersOf = ({ x, y, width, height }: Rectangle): Point[] => [
  { x, y },
  { x: x + width, y },
  { x: x + width, y: y + height },
  { x, y: y + height },
];
