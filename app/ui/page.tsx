/** Pieces that pages are made of. */
import clsx from "clsx";
import type { ReactNode } from "react";

export function Page({ children, wide = false }: { children: ReactNode; wide?: boolean }) {
  return (
    <main
      className={clsx(
        "mx-auto px-10 py-6 max-md:px-4",
        wide ? "max-w-[1280px] 2xl:max-w-[1560px]" : "max-w-[1080px] 2xl:max-w-[1280px]",
      )}
    >
      {children}
    </main>
  );
}

export function PageTitle({
  title,
  about,
  children,
}: {
  title: string;
  about?: ReactNode;
  children?: ReactNode;
}) {
  return (
    <header className="mb-5 flex flex-wrap items-end justify-between gap-x-6 gap-y-3">
      <div>
        <h1 className="text-display leading-tight">{title}</h1>
        {about && <p className="mt-1 text-body text-ink-2">{about}</p>}
      </div>
      {children && <div className="flex flex-wrap items-center gap-2">{children}</div>}
    </header>
  );
}

export function Chip({
  children,
  tone = "plain",
}: {
  children: ReactNode;
  tone?: "plain" | "some" | "done" | "wrong";
}) {
  return (
    <span
      className={clsx(
        "inline-block rounded-full px-2 py-px text-fine font-semibold whitespace-nowrap",
        tone === "plain" && "bg-bench text-ink-2",
        tone === "some" && "bg-saffron-soft text-saffron-ink",
        tone === "done" && "bg-bench text-leaf",
        tone === "wrong" && "bg-bench text-rust",
      )}
    >
      {children}
    </span>
  );
}

/** An empty place says what to do first. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="rounded-md border border-line-strong border-dashed px-6 py-10 text-center">
      <h2 className="text-title text-ink-2">{title}</h2>
      <div className="mt-1 text-ink-3">{children}</div>
    </div>
  );
}

/** A number that matters, with what it counts under it. */
export function Figure({ value, label, note }: { value: ReactNode; label: string; note?: string }) {
  return (
    <div>
      <div className="font-display text-display leading-none">{value}</div>
      <div className="mt-1 text-small text-ink-2">{label}</div>
      {note && <div className="text-small text-ink-3">{note}</div>}
    </div>
  );
}

/** Pages of a list. */
export function Pager({
  page,
  pages,
  hrefOf,
}: {
  page: number;
  pages: number;
  hrefOf: (page: number) => string;
}) {
  if (pages <= 1) return null;
  return (
    <nav aria-label="Pages" className="mt-3 flex items-center gap-3 text-ink-2">
      {page > 1 && (
        <a className="link" href={hrefOf(page - 1)}>
          Earlier page
        </a>
      )}
      <span>
        Page {page} of {pages}
      </span>
      {page < pages && (
        <a className="link" href={hrefOf(page + 1)}>
          Next page
        </a>
      )}
    </nav>
  );
}

/** A list that is searched and paged: what is in it, that nothing fits, or (`nothing`) that there is nothing yet. */
export function Listing({
  list: { search, page, pages },
  empty,
  nothing,
  children,
}: {
  list: { readonly search: string; readonly page: number; readonly pages: number };
  empty: boolean;
  nothing: ReactNode;
  children: ReactNode;
}) {
  return (
    <>
      {!empty ? children : search ? <Empty title="No matches">Try fewer letters.</Empty> : nothing}
      <Pager
        page={page}
        pages={pages}
        hrefOf={(to) => `?${new URLSearchParams({ search, page: String(to) })}`}
      />
    </>
  );
}
