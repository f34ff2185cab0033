import {
  INK_NAMES,
  type InkName,
  inkColour,
  isNote,
  PAPER_NAMES,
  type PaperName,
  paperColour,
} from '@miradero/core/items';
import type { Desk } from '../../desk/index.ts';
import { useMade } from '../../state/index.ts';
import { setLook } from './formatting.ts';
import type { NoteLook } from './in-writing.ts';
import { Writing } from './writing.ts';

/** What is shown of a choice of colours: value steps as one row, then tints. */
const INKS = INK_NAMES.filter((name) => !/^v[13579]$/.test(name));
const PAPERS = PAPER_NAMES.filter((name) => !/^v[13579]$/.test(name));

const wordsOf = (name: string): string => (/^v\d/.test(name) ? `value ${name.slice(1)}` : name);

/** How what is written looks, else the first note that is selected. */
function lookNow(desk: Desk): NoteLook {
  if (desk.tool instanceof Writing) {
    const { ink, paper } = desk.tool.settingOn(desk);
    return { ink, paper };
  }
  const note = desk.targets.find(isNote);
  return { ink: note?.ink, paper: note?.paper };
}

function Swatches<Name extends string>({
  title,
  names,
  now,
  colourOf,
  onChoose,
}: {
  title: string;
  names: readonly Name[];
  now: Name | null | undefined;
  colourOf: (name: Name) => string | undefined;
  onChoose: (name: Name) => void;
}) {
  return (
    <section>
      <h2 className="px-1.5 pt-1.5 text-[12px] text-muted">{title}</h2>
      <div className="flex max-w-52 flex-wrap gap-1 px-1.5 py-1">
        {names.map((name) => (
          <button
            key={name}
            type="button"
            aria-label={`${title}: ${wordsOf(name)}`}
            aria-pressed={now === name}
            title={wordsOf(name)}
            className="swatch h-6 w-6 border border-line text-[12px] text-muted aria-pressed:outline-2 aria-pressed:outline-ink"
            style={{ background: colourOf(name) }}
            onPointerDown={(event) => event.preventDefault()}
            onClick={() => onChoose(name)}
          >
            {colourOf(name) === undefined && '∅'}
          </button>
        ))}
      </div>
    </section>
  );
}

/** Words that stand on the board itself are written dark or light by what is below them. */
const readableOn = (surround: number): InkName => (surround < 5 ? 'v10' : 'v1');

/** What a note is written with and on, to be chosen. */
export function InkAndPaper({ desk }: { desk: Desk }) {
  const { ink, paper } = useMade(desk.watch, () => lookNow(desk));
  const setPaper = (name: PaperName) =>
    setLook(desk, {
      paper: name,
      ...(name === 'none' && ink == null && { ink: readableOn(desk.session.board.surround) }),
    });
  return (
    <div className="flex flex-col">
      <Swatches
        title="Ink"
        names={INKS}
        now={ink}
        colourOf={(name) => inkColour(name, undefined)}
        onChoose={(name) => setLook(desk, { ink: name })}
      />
      <Swatches title="Paper" names={PAPERS} now={paper} colourOf={paperColour} onChoose={setPaper} />
    </div>
  );
}
