/** Pages drawn on the server as a stream: what is there at once first, what comes late when it comes. */
import { Transform } from "node:stream";
import type { ReactNode } from "react";
import { renderToPipeableStream } from "react-dom/server";

export interface Drawing {
  readonly nonce: string;
  /** Nothing is handed on before all of it is there: for machines that read pages. */
  readonly whole: boolean;
  /** After so long what has not come is given up, ms. */
  readonly patience: number;
  /** What is there at once has been drawn. */
  ready(): void;
  /** A part could not be drawn: the page stands without it, and the browser tries it again. */
  failed(error: unknown): void;
}

/** So much is handed on at once, bytes. */
const PIECE = 64 * 1024;

/** Hands on together what is written in one turn: each of its many pieces would be packed, sent and read by itself. */
function gathering(): Transform {
  let held: Buffer[] = [];
  let bytes = 0;
  const hand = () => {
    if (bytes > 0) body.push(Buffer.concat(held));
    held = [];
    bytes = 0;
  };
  const body = new Transform({
    transform(piece: Buffer, _encoding, done) {
      if (held.push(piece) === 1) setImmediate(hand);
      bytes += piece.length;
      if (bytes >= PIECE) hand();
      done();
    },
    flush(done) {
      hand();
      done();
    },
  });
  return body;
}

/** Gives the page once it stands. Rejects with the error where it cannot stand at all, which is told to nobody else. */
export function drawPage(page: ReactNode, drawing: Drawing): Promise<Transform> {
  const { nonce, whole, patience, ready, failed } = drawing;
  return new Promise((resolve, reject) => {
    /** What failed before it was known whether the page stands; null once it does. */
    let early: unknown[] | null = [];
    const stands = () => {
      early?.forEach(failed);
      early = null;
      const body = gathering();
      resolve(body);
      pipe(body);
    };
    const timer = setTimeout(() => abort(), patience);
    const { pipe, abort } = renderToPipeableStream(page, {
      nonce,
      onShellReady() {
        if (!whole) stands();
        ready();
      },
      onAllReady() {
        clearTimeout(timer);
        if (whole) stands();
      },
      onShellError(error) {
        clearTimeout(timer);
        reject(error);
      },
      onError(error) {
        if (early) early.push(error);
        else failed(error);
      },
    });
  });
}
