/** What a catalogue has of its shop: where stock and prices are read from, and how the shop tells of views and orders. */
import { Button } from "../ui/button.tsx";
import { Field, FileField, INPUT } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";

export interface Shop {
  /** Where stock and prices are read from; empty for nowhere. */
  readonly stock: string;
  /** An address that is known to have them. */
  readonly offered: string | null;
  /** Where the shop tells us what was looked at and bought, and with what it signs that. */
  readonly hook: string;
  readonly secret: string;
}

type Errors = Partial<Record<"stock" | "deeds", string[] | null>> | null | undefined;

export function ShopPanel({
  shop,
  errors,
  taken,
}: {
  shop: Shop;
  errors: Errors;
  /** What came of a file, in a sentence; null before there was one. */
  taken: string | null;
}) {
  return (
    <>
      <Form method="post" className="flex flex-col gap-2 border-b pb-4">
        <Field
          label="Stock and prices"
          errors={errors?.stock}
          hint="The address of a list of ids with price, sale price and stock (CSV or JSON). It is read every quarter of an hour."
        >
          {(own) => (
            <input
              {...own}
              name="stock"
              inputMode="url"
              autoComplete="off"
              placeholder={shop.offered ?? "https://"}
              defaultValue={shop.stock || (shop.offered ?? "")}
              className={INPUT}
            />
          )}
        </Field>
        <div>
          <Button type="submit" name="do" value="stock">
            {shop.stock ? "Change it" : "Read it"}
          </Button>
        </div>
      </Form>
      <details className="border-b pb-4 text-small" open={Boolean(taken ?? errors?.deeds)}>
        <summary className="cursor-pointer">Orders and views from the shop</summary>
        <p className="mt-2 text-ink-2">
          The shop sends them as JSON to this address, signed with this secret (HMAC-SHA256 of the
          body, in hexadecimal, in the header X-Signature).
        </p>
        <dl className="mt-2 flex flex-col gap-1">
          <dt className="text-ink-3">Address</dt>
          <dd className="font-mono break-all select-all">{shop.hook}</dd>
          <dt className="text-ink-3">Secret</dt>
          <dd className="font-mono break-all select-all">{shop.secret}</dd>
        </dl>
        <Form method="post" encType="multipart/form-data" className="mt-3 flex flex-col gap-2">
          <FileField
            label="Or from a CSV file"
            errors={errors?.deeds}
            hint="Columns: email, product (its id), date; and if there are any type (order or view), quantity, amount, currency."
            name="deeds"
            accept=".csv,.txt,text/csv"
            required
          />
          <div>
            <Button type="submit" name="do" value="deeds">
              Import them
            </Button>
          </div>
          {taken && (
            <p role="status" className="text-ink-2">
              {taken}
            </p>
          )}
        </Form>
      </details>
    </>
  );
}
