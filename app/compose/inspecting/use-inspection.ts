/** Keeps an inspection of the email up to date: made by a worker when hands rest; one that is stale is thrown away. */
import { useEffect, useRef, useState } from "react";
import type { KnownReaders } from "#core/checks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { Field } from "#core/fields/index.ts";
import type { Surroundings } from "#core/kinds/kind.ts";
import type { Inspection } from "./inspect.ts";

/** How long hands rest before it begins, ms. */
const REST_MS = 400;

export function useInspection(
  doc: EmailDocument,
  surroundings: Surroundings,
  fields: readonly Field[],
  readers: KnownReaders | null,
): Inspection | null {
  const [inspection, setInspection] = useState<Inspection | null>(null);
  const worker = useRef<Worker | null>(null);
  const asked = useRef(0);
  useEffect(() => {
    const made = new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
    made.onmessage = ({ data }: MessageEvent<{ n: number } & Inspection>) => {
      if (data.n === asked.current) setInspection(data);
    };
    worker.current = made;
    return () => {
      made.terminate();
      worker.current = null;
    };
  }, []);
  useEffect(() => {
    const n = ++asked.current;
    const timer = setTimeout(() => {
      const known = new Map(fields.map((field) => [field.id, field]));
      worker.current?.postMessage({ n, doc, surroundings, fields: known, readers });
    }, REST_MS);
    return () => clearTimeout(timer);
  }, [doc, surroundings, fields, readers]);
  return inspection;
}
