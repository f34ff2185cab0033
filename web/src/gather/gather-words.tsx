import { type GatherWay, gatherBy } from '../desk/index.ts';

const WAYS: readonly (readonly [GatherWay, string])[] = [
  ['files', 'choose files'],
  ['address', 'by address'],
  ['paste', 'paste'],
  ['camera', 'camera'],
];

/** The ways to bring pictures in, as words, where no sill says them. */
export const GatherWords = () => (
  <>
    {WAYS.map(([way, words]) => (
      <button
        key={way}
        type="button"
        className="px-1.5 py-1 underline underline-offset-3"
        onClick={() => gatherBy(way)}
      >
        {words}
      </button>
    ))}
  </>
);
