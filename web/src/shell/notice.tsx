/** A short message about what just happened; `detail` lines below it. */
export interface Notice {
  readonly text: string;
  readonly detail: readonly string[];
}

/** What is quoted keeps to itself: a title may hold marks that turn the line around it. */
function Said({ text }: { text: string }) {
  return text
    .split(/(“.*?”)/su)
    .map((part, index) => (part.startsWith('“') ? <bdi key={index}>{part}</bdi> : part));
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
        <p className="min-w-0 flex-1 break-words font-medium">
          <Said text={notice.text} />
        </p>
        <button type="button" className="text-muted underline underline-offset-3" onClick={onClose}>
          Close
        </button>
      </div>
      {notice.detail.map((line) => (
        <p key={line} className="mt-1 break-words text-muted">
          <Said text={line} />
        </p>
      ))}
    </div>
  );
}
