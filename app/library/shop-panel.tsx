/** What a catalogue has of its shop: where stock and prices are read from, and how the shop tells of views and orders. */
import { Button } from "../ui/button.tsx";
import { Field, INPUT } from "../ui/field.tsx";
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

export function ShopPanel({ shop, errors }: { shop: Shop; errors: string[] | undefined }) {
  return (
    <>
      <Form method="post" className="flex flex-col gap-2 border-b pb-4">
        <Field
          label="Stock and prices"
          errors={errors}
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
      <details className="border-b pb-4 text-small">
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
      </details>
    </>
  );
}
