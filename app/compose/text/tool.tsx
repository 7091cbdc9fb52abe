import clsx from "clsx";

/** A button of the bar that leaves the selection in the text where it is. */
export function Tool({
  label,
  on,
  onClick,
  children,
}: {
  label: string;
  on?: boolean;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      aria-pressed={on}
      // The selection in the text must stay where it is.
      onMouseDown={(event) => event.preventDefault()}
      onClick={onClick}
      className={clsx(
        "inline-flex size-7 items-center justify-center rounded [&>svg]:size-4",
        on ? "bg-plum-soft text-plum" : "text-ink-2 hover:bg-bench",
      )}
    >
      {children}
    </button>
  );
}
