/** What a view shows stands in its address: one word of it is put there, or taken away. */
import { useSearchParams } from "react-router";

/** Puts a parameter into the address, null takes it away; going back leaves the view. */
export function usePut(): (name: string, value: string | null) => void {
  const [, setParams] = useSearchParams();
  return (name, value) =>
    setParams(
      (before) => {
        if (value === null) before.delete(name);
        else before.set(name, value);
        return before;
      },
      { replace: true, preventScrollReset: true },
    );
}
