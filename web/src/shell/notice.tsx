/** A short message about what just happened; `detail` lines below it. */
export interface Notice {
  readonly text: string;
  readonly detail: readonly string[];
}

/** What just happened, in words; a press takes it away. */
export function Notice({
  notice,
  onClose,
  className,
}: {
  notice: Notice | undefined;
  onClose: () => void;
  /** Size of what it is written in. */
  className: string;
}) {
  if (!notice) return null;
  return (
    <div className={`overflow-auto border border-line bg-raised text-ink ${className}`}>
      <div className="flex items-start gap-4">
        <p className="min-w-0 flex-1 break-words font-medium">{notice.text}</p>
        <button type="button" className="text-muted underline underline-offset-3" onClick={onClose}>
          Close
        </button>
      </div>
      {notice.detail.map((line) => (
        <p key={line} className="mt-1 break-words text-muted">
          {line}
        </p>
      ))}
    </div>
  );
}
