import type { SettleCopy } from '@miradero/core/schema';

const CHOICES: readonly (readonly [SettleCopy['keep'], string])[] = [
  ['this', 'this one everywhere'],
  ['other', 'that one everywhere'],
  ['both', 'both'],
];

/** What can become of two near copies, as words. */
export const CopyChoices = ({ onSettle }: { onSettle: (keep: SettleCopy['keep']) => void }) => (
  <>
    {CHOICES.map(([keep, words]) => (
      <button
        key={keep}
        type="button"
        className="text-[13px] underline decoration-1 underline-offset-3"
        onClick={() => onSettle(keep)}
      >
        {words}
      </button>
    ))}
  </>
);
