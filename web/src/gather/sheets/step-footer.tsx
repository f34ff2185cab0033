/** The end of a step: once more, or take what it made. */
export function StepFooter({
  words,
  isReady = true,
  onBack,
  onTake,
}: {
  words: string;
  isReady?: boolean;
  onBack: () => void;
  onTake: () => Promise<void>;
}) {
  return (
    <footer className="mt-3 flex items-center justify-end gap-4">
      <button
        type="button"
        className="mr-auto px-2 py-1 text-muted underline underline-offset-3"
        onClick={onBack}
      >
        Once more
      </button>
      <button
        type="button"
        className="border border-ink bg-ink px-3 py-1 text-paper disabled:opacity-40"
        disabled={!isReady}
        onClick={() => void onTake()}
      >
        {words}
      </button>
    </footer>
  );
}
