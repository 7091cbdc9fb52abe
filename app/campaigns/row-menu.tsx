/** What can be done with a campaign in the list of all. */
import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { Ellipsis } from "lucide-react";
import { useState } from "react";
import { useNavigate, useSubmit } from "react-router";
import { Button, IconButton } from "../ui/button.tsx";
import { Dialog } from "../ui/dialog.tsx";
import { TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Menu } from "../ui/menu.tsx";
import { rowSchema } from "./row-schema.ts";
import { TemplateForm } from "./template-form.tsx";

interface Labelled {
  readonly id: string;
  readonly name: string;
  readonly archived: boolean;
  readonly labels: readonly { readonly name: string }[];
}

function LabelsForm({
  campaign,
  known,
  onDone,
}: {
  campaign: Labelled;
  known: readonly { readonly name: string }[];
  onDone: () => void;
}) {
  const [form, fields] = useForm({
    id: `labels-${campaign.id}`,
    defaultValue: { labels: campaign.labels.map(({ name }) => name).join(", ") },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: rowSchema }),
    onSubmit: onDone,
  });
  return (
    <Form method="post" {...getFormProps(form)} className="flex flex-col gap-3">
      <input type="hidden" name="do" value="label" />
      <input type="hidden" name="campaign" value={campaign.id} />
      <TextField
        meta={fields.labels}
        label="Labels"
        hint={
          known.length > 0
            ? `Separated by commas. There are: ${known.map(({ name }) => name).join(", ")}.`
            : "Separated by commas, such as: Newsletter, Spring."
        }
      />
      <div>
        <Button type="submit" primary>
          Save
        </Button>
      </div>
    </Form>
  );
}

export function RowMenu({
  campaign,
  known,
}: {
  campaign: Labelled;
  known: readonly { readonly name: string }[];
}) {
  const submit = useSubmit();
  const navigate = useNavigate();
  const [labelling, setLabelling] = useState(false);
  const [saving, setSaving] = useState(false);
  const send = (what: "delete" | "archive" | "restore") =>
    void submit({ do: what, campaign: campaign.id }, { method: "post" });
  return (
    <>
      <Menu
        trigger={
          <IconButton label={`More about ${campaign.name}`}>
            <Ellipsis />
          </IconButton>
        }
        items={() => [
          {
            label: "Start another from it",
            onChoose: () => void navigate(`/campaigns/new?from=campaign:${campaign.id}`),
          },
          { label: "Save as a template…", onChoose: () => setSaving(true) },
          { label: "Export…", onChoose: () => void navigate(`/campaigns/${campaign.id}/export`) },
          { label: "Labels…", onChoose: () => setLabelling(true) },
          campaign.archived
            ? { label: "Take out of the archive", onChoose: () => send("restore") }
            : { label: "Archive", onChoose: () => send("archive") },
          { label: "Delete", onChoose: () => send("delete") },
        ]}
      />
      <Dialog title="Save as a template" open={saving} onOpenChange={setSaving}>
        <TemplateForm campaign={campaign} />
      </Dialog>
      <Dialog title={`Labels of ${campaign.name}`} open={labelling} onOpenChange={setLabelling}>
        <LabelsForm campaign={campaign} known={known} onDone={() => setLabelling(false)} />
      </Dialog>
    </>
  );
}
