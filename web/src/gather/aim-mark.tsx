import { X } from 'lucide-react';
import { useEffect } from 'react';
import { Link } from 'react-router';
import { useSubjects } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { aiming } from './keeping/aim.ts';

/** What is being gathered for, in the lintel of every page, until it is ended. */
export function AimMark() {
  const aim = useStore(aiming.store, ({ aim }) => aim);
  return aim ? <Mark subject={aim.subject} words={aim.words} /> : null;
}

function Mark({ subject, words }: { subject: string; words: string }) {
  const { data: subjects, isFetching } = useSubjects();
  const isGone = subjects !== undefined && !isFetching && !subjects.some(({ id }) => id === subject);
  // What is put away is gathered for no more.
  useEffect(() => {
    if (isGone) aiming.end();
  }, [isGone]);
  return (
    <span
      className="flex min-w-0 max-w-64 shrink items-center gap-1 border-verdigris border-b-2 text-[13px] max-md:max-w-28"
      title={`What comes in now is given to ${words}`}
    >
      <Link to={`/subjects/${subject}`} className="min-w-0 truncate">
        <span className="max-md:hidden">for </span>
        <span className="font-serif text-[15px] italic">
          {/* Where there is little room the part alone: of which subject, its page tells. */}
          <span className="max-md:hidden">{words}</span>
          <span className="md:hidden">{words.slice(words.indexOf(': ') + 1).trim()}</span>
        </span>
      </Link>
      <button
        type="button"
        aria-label={`No longer gather for ${words}`}
        className="grid size-5 shrink-0 place-items-center text-muted hover:text-ink"
        onClick={() => aiming.end()}
      >
        <X size={13} aria-hidden />
      </button>
    </span>
  );
}
