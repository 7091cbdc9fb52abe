import { Upload } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { CONTACTS, getSchema } from "#server/store/fields.ts";
import { listImports } from "#server/store/imports.ts";
import { ask, wordsOf } from "../ask.ts";
import { IMPORT_STATES } from "../people/import/states.ts";
import { at, zoneOf } from "../request.ts";
import { Buttonlike } from "../ui/button.tsx";
import { Chip, Empty, Page, PageTitle } from "../ui/page.tsx";
import { named, Select } from "../ui/select.tsx";
import { Table } from "../ui/table.tsx";
import { useToast } from "../ui/toast.tsx";
import { ago, count } from "../ui/words.ts";
import type { Route } from "./+types/people.imports.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Imports · Septima" }];

export async function loader({ context }: Route.LoaderArgs) {
  const { sql, now } = at(context);
  const zone = await zoneOf(context);
  const { tables } = await getSchema(sql);
  return {
    destinations: [
      { id: CONTACTS, name: "People" },
      ...[...tables.values()].map(({ id, name }) => ({ id, name })),
    ],
    imports: (await listImports(sql)).map((one) => ({
      ...one,
      when: ago(one.createdAt, now, zone),
      into: one.table === CONTACTS ? "People" : (tables.get(one.table)?.name ?? "–"),
    })),
  };
}

export default function Imports({ loaderData }: Route.ComponentProps) {
  const navigate = useNavigate();
  const say = useToast();
  const [sending, setSending] = useState(false);
  const [params] = useSearchParams();
  const [into, setInto] = useState(params.get("into") ?? CONTACTS);

  async function send(file: File) {
    setSending(true);
    const query = new URLSearchParams({ name: file.name, into });
    const reply = await ask<{ id: string }>(`/people/imports/upload?${query}`, { body: file });
    setSending(false);
    if (reply.kind === "ok") await navigate(`/people/imports/${reply.body.id}`);
    else if (reply.kind === "away") {
      say("The file did not arrive. Send it again when the line is back.", "wrong");
    } else say(wordsOf(reply, "The file was not taken."), "wrong");
  }

  return (
    <Page wide>
      <PageTitle
        title="Imports"
        about="People or records from a CSV or JSON file. Nothing is changed before you have seen what would happen."
      >
        <Select
          label="What the file holds"
          value={into}
          options={named(loaderData.destinations)}
          onValue={setInto}
          className="w-40"
        />
        <Buttonlike asChild primary>
          <label className="cursor-pointer focus-within:outline-2">
            <Upload className="size-4" />
            {sending ? "Sending…" : "Choose a file"}
            <input
              type="file"
              accept=".csv,.tsv,.txt,.json,.ndjson,.jsonl,text/csv,application/json"
              className="sr-only"
              disabled={sending}
              onChange={(event) => {
                const file = event.target.files?.[0];
                if (file) void send(file);
                event.target.value = "";
              }}
            />
          </label>
        </Buttonlike>
      </PageTitle>
      {loaderData.imports.length === 0 ? (
        <Empty title="Nothing was imported yet">
          Choose a file with a column of mail addresses; what its columns mean is asked next.
        </Empty>
      ) : (
        <Table
          label="Imports"
          rows={loaderData.imports}
          keyOf={(row) => row.id}
          columns={[
            {
              title: "File",
              cell: (row) => (
                <Link to={row.id} className="font-semibold hover:underline">
                  {row.name}
                </Link>
              ),
            },
            { title: "Into", cell: (row) => row.into },
            { title: "When", cell: (row) => row.when },
            {
              title: "State",
              cell: (row) => (
                <Chip tone={IMPORT_STATES[row.state].tone}>{IMPORT_STATES[row.state].label}</Chip>
              ),
            },
            { title: "New", right: true, cell: (row) => count(row.added) },
            { title: "Changed", right: true, cell: (row) => count(row.changed) },
            { title: "Refused", right: true, cell: (row) => count(row.refused) },
          ]}
        />
      )}
    </Page>
  );
}
