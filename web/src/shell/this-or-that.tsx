/** "This, not that": which of the two is meant. */
export function ThisOrThat({ isNot, onChange }: { isNot: boolean; onChange: (isNot: boolean) => void }) {
  return (
    <span className="flex gap-4 text-[13px]">
      {[false, true].map((no) => (
        <button
          key={String(no)}
          type="button"
          aria-pressed={isNot === no}
          className="choice"
          onClick={() => onChange(no)}
        >
          {no ? 'not that' : 'this'}
        </button>
      ))}
    </span>
  );
}
