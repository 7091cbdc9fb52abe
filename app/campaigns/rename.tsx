/** The name of a campaign, written anew; whoever does stays in the room. Loaded when it is asked for. */
import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { useEffect } from "react";
import { useFetcher } from "react-router";
import type { action } from "../routes/campaign.tsx";
import { Button } from "../ui/button.tsx";
import { Dialog } from "../ui/dialog.tsx";
import { TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { nameSchema } from "./name-schema.ts";

export default function Rename({
  id,
  name,
  onClose,
}: {
  id: string;
  name: string;
  onClose: () => void;
}) {
  const fetcher = useFetcher<typeof action>();
  const done = fetcher.state === "idle" && fetcher.data?.status === "success";
  useEffect(() => {
    if (done) onClose();
  }, [done, onClose]);
  const [form, fields] = useForm({
    lastResult: fetcher.data,
    defaultValue: { name },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: nameSchema }),
  });
  return (
    <Dialog title="Rename the campaign" open onOpenChange={(open) => !open && onClose()}>
      <Form
        method="post"
        action={`/campaigns/${id}`}
        fetcher={fetcher}
        {...getFormProps(form)}
        className="flex flex-col gap-3"
      >
        <TextField meta={fields.name} label="Name" />
        <div>
          <Button type="submit" primary>
            Rename
          </Button>
        </div>
      </Form>
    </Dialog>
  );
}
