/** Chooses a file and sends it; what its columns mean is asked next. */
import { Upload } from "lucide-react";
import { useState } from "react";
import { useNavigate } from "react-router";
import { ask, wordsOf } from "../../ask.ts";
import { Buttonlike } from "../../ui/button.tsx";
import { useToast } from "../../ui/toast.tsx";

export function UploadFile({ into, label = "Choose a file" }: { into: string; label?: string }) {
  const navigate = useNavigate();
  const say = useToast();
  const [sending, setSending] = useState(false);

  async function send(file: File) {
    setSending(true);
    const query = new URLSearchParams({ name: file.name, into });
    const reply = await ask<{ id: string }>(`/people/imports/upload?${query}`, { body: file });
    setSending(false);
    if (reply.kind === "ok") await navigate(`/people/imports/${reply.body.id}`);
    else if (reply.kind === "away") {
      say("The file did not arrive. Send it again when you are connected again.", "wrong");
    } else say(wordsOf(reply, "The file was not taken."), "wrong");
  }

  return (
    <Buttonlike asChild primary>
      <label className="cursor-pointer focus-within:outline-2">
        <Upload className="size-4" />
        {sending ? "Sending…" : label}
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
  );
}
