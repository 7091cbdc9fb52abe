import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { CONTACTS, getSchema } from "#server/store/fields.ts";
import { listImports } from "#server/store/imports.ts";
import { getSources } from "#server/store/sources.ts";
import { IMPORT_STATES } from "../people/import/states.ts";
import { UploadFile } from "../people/import/upload-file.tsx";
import { at, zoneOf } from "../request.ts";
import { Chip, Empty, Page, PageTitle } from "../ui/page.tsx";
import { named, Select } from "../ui/select.tsx";
import { Table } from "../ui/table.tsx";
import { ago, count } from "../ui/words.ts";
import type { Route } from "./+types/people.imports.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Imports · Septima" }];

export async function loader({ context }: Route.LoaderArgs) {
  const { sql, now } = at(context);
  const zone = await zoneOf(context);
  const { tables } = await getSchema(sql);
  const sources = new Map((await getSources(sql)).map(({ id, name }) => [id, name]));
  return {
    destinations: [
      { id: CONTACTS, name: "People" },
      ...[...tables.values()].map(({ id, name }) => ({ id, name })),
    ],
    imports: (await listImports(sql)).map((one) => ({
      ...one,
      when: ago(one.createdAt, now, zone),
      into:
        one.table === CONTACTS
          ? "People"
          : (tables.get(one.table)?.name ?? sources.get(one.table) ?? "–"),
    })),
  };
}

export default function Imports({ loaderData }: Route.ComponentProps) {
  const [params] = useSearchParams();
  const [into, setInto] = useState(params.get("into") ?? CONTACTS);

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
        <UploadFile into={into} />
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
