import type { PictureSource, TakenOfModel } from '@miradero/core/schema';

/** A file, and what is known of where it comes from. */
export interface BroughtFile {
  readonly kind: 'file';
  readonly file: File;
  readonly name?: string;
  readonly source?: Partial<PictureSource>;
  /** mm, of a sheet that was squared. */
  readonly paperMm?: { readonly width: number; readonly height: number };
  /** Of a picture that was taken of a model. */
  readonly taken?: TakenOfModel;
}

/** Something in the web. `isPicture`: it is one; else what lies there has to be looked at. */
export interface BroughtAddress {
  readonly kind: 'address';
  readonly address: string;
  readonly isPicture: boolean;
  readonly page?: string;
  /** Where a click on it would have led: perhaps to a larger one. */
  readonly link?: string;
  readonly name?: string;
  readonly title?: string;
  readonly creator?: string;
  readonly licence?: string;
  /** What is taken from there is tagged so. */
  readonly tag?: string;
  /** As far as the page says, pixels. */
  readonly width?: number;
  readonly height?: number;
}

export interface BroughtText {
  readonly kind: 'text';
  readonly text: string;
  /** The same as a piece of a page, where it came as one. */
  readonly html?: string;
}

/** What a hand, a clipboard or another window brings. */
export type Brought = BroughtFile | BroughtAddress | BroughtText;
