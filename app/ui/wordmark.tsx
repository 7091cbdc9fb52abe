/** The name with its mark. */
export function Wordmark() {
  return (
    <span className="flex items-center gap-[7px] font-display text-title font-semibold tracking-tight text-plum">
      <span aria-hidden className="size-[15px] rounded-[50%_50%_50%_0] bg-plum" />
      Septima
    </span>
  );
}
