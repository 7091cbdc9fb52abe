/** The images of the library: in folders, with labels, searched; new ones are dropped, pasted or chosen. */
import clsx from "clsx";
import { FolderPlus, Trash2 } from "lucide-react";
import { useState } from "react";
import { data, Link } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { required } from "#server/forms.ts";
import { addFolder, folderName, listFolders, renameFolder } from "#server/store/picture-folders.ts";
import {
  countPictures,
  labelPictures,
  movePictures,
  pictureLabels,
  searchPictures,
} from "#server/store/pictures.ts";
import { submissionOf } from "../form.ts";
import { UploadArea } from "../pictures/upload-area.tsx";
import { removing } from "../removed.ts";
import { at, paged, searchIn } from "../request.ts";
import { Button, IconButton } from "../ui/button.tsx";
import { FormErrors, INPUT } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Empty, Page, Pager, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { named, Select } from "../ui/select.tsx";
import { count, counted } from "../ui/words.ts";
import type { Route } from "./+types/library.pictures.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Library · Septima" }];

const word = (url: URL, name: string) => (url.searchParams.get(name) ?? "").slice(0, 80);

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const url = new URL(request.url);
  const filter = { words: searchIn(url), folder: word(url, "folder"), label: word(url, "label") };
  const { page, pages, from } = paged(
    url,
    await countPictures(sql, filter),
    LIMITS.picturesPerPage,
  );
  const [found, folders, labels] = await Promise.all([
    searchPictures(sql, { ...filter, from }),
    listFolders(sql),
    pictureLabels(sql),
  ]);
  // What a tile shows, and no more: a page holds many.
  const pictures = found.pictures.map(({ id, file, name, width, height, alt, decorative }) => ({
    id,
    file,
    name,
    size: `${width} × ${height}`,
    needsAlt: !alt && !decorative,
  }));
  return { pictures, total: found.total, filter, folders, labels, page, pages };
}

const ids = z
  .array(z.string().max(80), "Choose images first.")
  .min(1, "Choose images first.")
  .max(LIMITS.picturesTogether);
const schema = z.discriminatedUnion("do", [
  z.object({ do: z.literal("add"), name: required("Give the folder a name.", 80) }),
  z.object({
    do: z.literal("rename"),
    folder: z.string().max(40),
    name: required("Give the folder a name.", 80),
  }),
  z.object({ do: z.literal("remove"), folder: z.string().max(40) }),
  z.object({ do: z.literal("move"), pictures: ids, folder: z.string().max(40).default("") }),
  z.object({
    do: z.literal("label"),
    pictures: ids,
    label: required("Write the label.", 40).transform((text) => text.toLowerCase()),
  }),
]);
const TAKEN = "There is a folder of this name already, or there are as many as there may be.";

export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") {
    const [problem = "This cannot be done."] = Object.values(
      submission.error ?? {},
    ).flat() as string[];
    return data({ problem }, 400);
  }
  const { sql, now } = at(context);
  const asked = submission.value;
  const refuse = (problem: string) => data({ problem }, 409);
  switch (asked.do) {
    case "add":
      return (await addFolder(sql, asked.name, now)) ? { problem: null } : refuse(TAKEN);
    case "rename":
      return (await renameFolder(sql, asked.folder, asked.name))
        ? { problem: null }
        : refuse(TAKEN);
    case "remove": {
      const name = await folderName(sql, asked.folder);
      if (name === null) return refuse("This folder is gone.");
      return removing(context, "picture_folders", asked.folder, `The folder “${name}”`, "/library");
    }
    case "move": {
      const folder = asked.folder || null;
      if (folder && (await folderName(sql, folder)) === null) return refuse("This folder is gone.");
      await movePictures(sql, asked.pictures, folder);
      return { problem: null };
    }
    case "label":
      await labelPictures(sql, asked.pictures, asked.label);
      return { problem: null };
  }
}

type Loaded = Route.ComponentProps["loaderData"];
type Filter = Loaded["filter"];

/** Where a filter shows, with parts of it changed. */
const hrefOf = ({ words, folder, label }: Filter, page = 1) => {
  const all = { search: words, folder, label, page: page > 1 ? `${page}` : "" };
  const said = Object.entries(all).filter(([, value]) => value !== "");
  return `/library?${new URLSearchParams(said)}`;
};

function Choice({ to, on, children }: { to: string; on: boolean; children: React.ReactNode }) {
  return (
    <Link
      to={to}
      aria-current={on ? "true" : undefined}
      className={clsx(
        "flex justify-between gap-2 rounded-md px-2 py-1 hover:bg-bench",
        on && "bg-plum-soft font-semibold text-plum",
      )}
    >
      {children}
    </Link>
  );
}

function Folders({ loaderData: { folders, labels, filter } }: { loaderData: Loaded }) {
  const open = folders.find(({ id }) => id === filter.folder);
  const into = (folder: string) => hrefOf({ ...filter, folder });
  return (
    <div className="w-52 flex-none max-md:w-full">
      <nav aria-label="Folders" className="flex flex-col gap-0.5">
        <Choice to={into("")} on={filter.folder === ""}>
          All images
        </Choice>
        {folders.map(({ id, name, count: n }) => (
          <Choice key={id} to={into(id)} on={filter.folder === id}>
            <span className="truncate">{name}</span>
            <span className="text-ink-3">{count(n)}</span>
          </Choice>
        ))}
        {folders.length > 0 && (
          <Choice to={into("none")} on={filter.folder === "none"}>
            In no folder
          </Choice>
        )}
      </nav>
      <Form method="post" className="mt-2 flex gap-1.5">
        <input type="hidden" name="do" value={open ? "rename" : "add"} />
        {open && <input type="hidden" name="folder" value={open.id} />}
        <input
          key={`${open?.name ?? ""}${folders.length}`}
          name="name"
          aria-label={open ? `Name of the folder ${open.name}` : "A new folder"}
          placeholder="A new folder"
          defaultValue={open?.name}
          maxLength={80}
          className={`${INPUT} min-w-0`}
        />
        {open ? (
          <Button type="submit">Rename</Button>
        ) : (
          <IconButton type="submit" label="Add the folder">
            <FolderPlus />
          </IconButton>
        )}
      </Form>
      {open && (
        <Form method="post" className="mt-1.5">
          <input type="hidden" name="do" value="remove" />
          <input type="hidden" name="folder" value={open.id} />
          <Button type="submit">
            <Trash2 className="size-3.5" /> Delete the folder
          </Button>
          <p className="mt-1 text-small text-ink-3">Its images stay.</p>
        </Form>
      )}
      {labels.length > 0 && (
        <nav aria-label="Labels" className="mt-4 flex flex-wrap gap-1.5">
          {labels.map(({ label, count: n }) => {
            const on = filter.label === label;
            return (
              <Link
                key={label}
                to={hrefOf({ ...filter, label: on ? "" : label })}
                aria-current={on ? "true" : undefined}
                className={clsx(
                  "rounded-full border px-2 text-small",
                  on ? "border-plum bg-plum-soft text-plum" : "border-line-strong",
                )}
              >
                {label} {n}
              </Link>
            );
          })}
        </nav>
      )}
    </div>
  );
}

/** What is done to the images that are chosen. */
function Together({ loaderData, chosen }: { loaderData: Loaded; chosen: readonly string[] }) {
  const hidden = (what: string) => (
    <>
      <input type="hidden" name="do" value={what} />
      {chosen.map((id, i) => (
        <input key={id} type="hidden" name={`pictures[${i}]`} value={id} />
      ))}
    </>
  );
  return (
    <div
      role="group"
      aria-label="With those chosen"
      className="mb-3 flex flex-wrap items-center gap-3 rounded-md border bg-sheet px-3 py-2"
    >
      <span className="font-semibold">{count(chosen.length)} chosen</span>
      <Form method="post" className="flex items-center gap-1.5">
        {hidden("move")}
        <Select
          label="Folder"
          name="folder"
          initial=""
          none="no folder"
          options={named(loaderData.folders)}
        />
        <Button type="submit">Move</Button>
      </Form>
      <Form method="post" className="flex items-center gap-1.5">
        {hidden("label")}
        <input
          name="label"
          aria-label="Label"
          placeholder="Label"
          maxLength={40}
          className={`${INPUT} w-32`}
        />
        <Button type="submit">Add</Button>
      </Form>
    </div>
  );
}

export default function Pictures({ loaderData, actionData }: Route.ComponentProps) {
  const { pictures, total, filter, page, pages } = loaderData;
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const shown = chosen.filter((id) => pictures.some((one) => one.id === id));
  const filtered = filter.words !== "" || filter.folder !== "" || filter.label !== "";
  return (
    <Page wide>
      <PageTitle title="Images" about={`${counted(total, "image")}${filtered ? " found" : ""}`}>
        <SearchForm label="Search images" hint="Search by name or label" search={filter.words}>
          <input type="hidden" name="folder" value={filter.folder} />
          <input type="hidden" name="label" value={filter.label} />
        </SearchForm>
      </PageTitle>
      <FormErrors errors={actionData?.problem ? [actionData.problem] : null} />
      <div className="flex gap-6 max-md:flex-col">
        <Folders loaderData={loaderData} />
        <UploadArea folder={filter.folder === "none" ? "" : filter.folder}>
          {shown.length > 0 && <Together loaderData={loaderData} chosen={shown} />}
          {pictures.length === 0 &&
            (filtered ? (
              <Empty title="No matches">Try fewer letters, or another folder.</Empty>
            ) : (
              <Empty title="No images yet">Drop some here, or choose them.</Empty>
            ))}
          <ul className="grid grid-cols-[repeat(auto-fill,minmax(180px,1fr))] gap-4">
            {pictures.map(({ id, file, name, size, needsAlt }) => (
              <li key={id} className="relative overflow-hidden rounded-md border bg-sheet">
                <input
                  type="checkbox"
                  aria-label={`Choose ${name}`}
                  checked={shown.includes(id)}
                  onChange={({ target }) =>
                    setChosen(target.checked ? [...shown, id] : shown.filter((one) => one !== id))
                  }
                  className="absolute top-2 left-2 size-4 accent-plum"
                />
                <Link to={`/library/image/${id}`} className="block">
                  <span className="flex h-32 items-center justify-center bg-bench">
                    <img
                      src={`/pictures/${file}`}
                      alt=""
                      className="max-h-full max-w-full"
                      loading="lazy"
                    />
                  </span>
                  <span className="block border-t px-2.5 py-2">
                    <span className="block truncate font-semibold">{name}</span>
                    <span className="block text-small text-ink-3">
                      {size}
                      {needsAlt && " · no alt text"}
                    </span>
                  </span>
                </Link>
              </li>
            ))}
          </ul>
          <Pager page={page} pages={pages} hrefOf={(to) => hrefOf(filter, to)} />
        </UploadArea>
      </div>
    </Page>
  );
}
