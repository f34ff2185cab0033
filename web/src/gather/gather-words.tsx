import { useRun } from '../commands/index.ts';

const WAYS: readonly (readonly [command: string, words: string])[] = [
  ['choose-files', 'choose files'],
  ['by-address', 'by address'],
  ['paste', 'paste'],
  ['camera', 'camera'],
];

/** The ways to bring pictures in, as words, where no sill says them. */
export function GatherWords() {
  const run = useRun();
  return (
    <>
      {WAYS.map(([command, words]) => (
        <button
          key={command}
          type="button"
          className="px-1.5 py-1 underline underline-offset-3"
          onClick={() => run(command)}
        >
          {words}
        </button>
      ))}
    </>
  );
}
