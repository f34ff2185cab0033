import { type ReactNode, useState } from 'react';
import { ToolCard } from './tool-card.tsx';

const WORD = 'underline underline-offset-3';

/** A card folded to one line: what it says in short, and the words that unfold and leave it. */
export function FoldedLine({
  children,
  onUnfold,
  onDone,
}: {
  children: ReactNode;
  onUnfold: () => void;
  onDone: () => void;
}) {
  return (
    <p className="flex items-center gap-2.5">
      {children}
      <button type="button" className={`${WORD} ml-auto text-muted`} aria-expanded={false} onClick={onUnfold}>
        more
      </button>
      <button type="button" className={WORD} onClick={onDone}>
        done
      </button>
    </p>
  );
}

/** The last line of a tool's card: the word that leaves it, and one that folds it away where it can be. */
export function CardEnd({
  children,
  onDone,
  onFold,
}: {
  children?: ReactNode;
  onDone: () => void;
  onFold?: () => void;
}) {
  return (
    <p className="mt-1.5 flex justify-end gap-4 border-line border-t pt-1.5">
      {children}
      {onFold && (
        <button type="button" className={`${WORD} text-muted`} aria-expanded onClick={onFold}>
          less
        </button>
      )}
      <button type="button" className={WORD} onClick={onDone}>
        done
      </button>
    </p>
  );
}

/** A tool's card that is one line where there is little room, until it is unfolded. */
export function FoldingCard({
  inShort,
  beside,
  onDone,
  children,
  ...card
}: {
  label: string;
  testId: string;
  isBusy?: boolean;
  /** All of it in one line. */
  inShort: ReactNode;
  /** Beside the words at its end. */
  beside?: ReactNode;
  onDone: () => void;
  children: ReactNode;
}) {
  const [isFolded, setFolded] = useState<boolean>();
  return (
    <ToolCard {...card}>
      <div className={isFolded === undefined ? 'md:hidden' : isFolded ? '' : 'hidden'}>
        <FoldedLine onUnfold={() => setFolded(false)} onDone={onDone}>
          <span className="min-w-0 truncate">{inShort}</span>
        </FoldedLine>
      </div>
      <div className={isFolded === undefined ? 'max-md:hidden' : isFolded ? 'hidden' : ''}>
        {children}
        <CardEnd onDone={onDone} onFold={() => setFolded(true)}>
          {beside}
        </CardEnd>
      </div>
    </ToolCard>
  );
}
