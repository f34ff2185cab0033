export const ENDED = 'This link leads nowhere: it was ended, or never was.';

/** What a looker is not given, or may not do; for them, in words. */
export class LookingError extends Error {
  readonly status: number;
  constructor(status: number, message: string) {
    super(message);
    this.status = status;
  }
}
