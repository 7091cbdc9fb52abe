/** The inputs for one value of a derived tag, by its kind. */
import {
  ARITHMETIC,
  type DerivedKind,
  type NumberFormula,
  type Operand,
  SINCE,
} from "#core/derived/index.ts";
import type { Field } from "#core/fields/index.ts";
import type { Picture } from "#core/kinds/kind.ts";
import { NumberInput } from "../ui/number-input.tsx";
import { PicturePicker } from "../ui/picture-picker.tsx";
import { Select } from "../ui/select.tsx";
import { OP_NAMES, type Written } from "./derived-kinds.ts";
import { LineWords, RichInput } from "./rich-input.tsx";
import { refOf } from "./tag-select.tsx";

interface Props {
  kind: DerivedKind;
  /** What it is called by screen readers: “Case 1”. */
  label: string;
  value: Written;
  fields: readonly Field[];
  /** Those that are chosen somewhere in the tag. */
  pictures: readonly Picture[];
  /** One more is. */
  onPicture: (picture: Picture) => void;
  onChange: (value: Written) => void;
}

const FieldChoice = ({
  fields,
  onChange,
  ...rest
}: {
  label: string;
  value: string;
  fields: readonly Field[];
  onChange: (ref: string) => void;
}) => (
  <Select
    {...rest}
    none="Choose a field"
    options={fields.map((field) => ({ value: refOf(field), label: field.label }))}
    onValue={onChange}
    className="w-auto max-w-64"
  />
);

function OperandInput({
  label,
  operand,
  fields,
  onChange,
}: {
  label: string;
  operand: Operand;
  fields: readonly Field[];
  onChange: (operand: Operand) => void;
}) {
  return (
    <>
      <FieldChoice
        label={`${label}: field`}
        value={operand.kind === "field" ? operand.ref : ""}
        fields={fields}
        onChange={(ref) => onChange(ref ? { kind: "field", ref } : { kind: "number", value: 1 })}
      />
      {operand.kind === "number" && (
        <NumberInput
          label={`${label}: number`}
          value={operand.value}
          onValue={(value) => onChange({ kind: "number", value: value ?? Number.NaN })}
        />
      )}
    </>
  );
}

const isSince = (op: NumberFormula["op"]): op is (typeof SINCE)[number] =>
  (SINCE as readonly string[]).includes(op);

export function DerivedValueInput({
  kind,
  label,
  value,
  fields,
  pictures,
  onPicture,
  onChange,
}: Props) {
  const ofType = (type: Field["type"]) => fields.filter((field) => field.type === type);
  if ("words" in value) {
    return (
      <LineWords
        label={kind === "link" ? `${label}: address` : `${label}: words`}
        hint={kind === "link" ? "https://" : undefined}
        value={value.words}
        fields={fields}
        onChange={(words) => onChange({ words })}
      />
    );
  }
  if ("rich" in value) {
    return (
      <RichInput
        label={`${label}: words`}
        value={value.rich}
        fields={fields}
        onChange={(rich) => onChange({ rich })}
      />
    );
  }
  if ("picture" in value) {
    const chosen = pictures.find(({ id }) => id === value.picture);
    return (
      <div className="flex flex-col gap-1.5">
        <PicturePicker
          taken={value.picture}
          here={pictures}
          onTake={(picture) => {
            onPicture(picture);
            onChange({ ...value, picture: picture.id });
          }}
          trigger={
            <button
              type="button"
              aria-label={`${label}: choose the image`}
              className="flex h-16 w-28 items-center justify-center overflow-hidden rounded-md border border-field bg-sheet text-small hover:border-plum"
            >
              {chosen ? (
                <img src={`/pictures/${chosen.file}`} alt={chosen.name} className="max-h-full" />
              ) : (
                "Choose an image"
              )}
            </button>
          }
        />
        <LineWords
          label={`${label}: alt text`}
          hint="What the image shows, for those who do not see it"
          value={value.alt}
          fields={fields}
          onChange={(alt) => onChange({ ...value, alt })}
        />
      </div>
    );
  }
  if ("address" in value) {
    return (
      <span className="flex flex-col gap-1.5">
        <LineWords
          label={`${label}: name`}
          hint="Name"
          value={value.name}
          fields={fields}
          onChange={(name) => onChange({ ...value, name })}
        />
        <LineWords
          label={`${label}: mail address`}
          hint="Mail address"
          value={value.address}
          fields={fields}
          onChange={(address) => onChange({ ...value, address })}
        />
      </span>
    );
  }
  if (value.op === "daysAfter") {
    return (
      <span className="flex flex-wrap items-center gap-1.5">
        <NumberInput
          label={`${label}: days`}
          value={value.days}
          onValue={(days) => onChange({ ...value, days: days ?? Number.NaN })}
        />
        days after
        <FieldChoice
          label={`${label}: date`}
          value={value.field}
          fields={ofType("date")}
          onChange={(field) => onChange({ ...value, field })}
        />
      </span>
    );
  }
  const numbers = ofType("number");
  const op = (
    <Select
      label={`${label}: how it is worked out`}
      value={value.op}
      options={[...SINCE, ...ARITHMETIC].map((op) => ({ value: op, label: OP_NAMES[op] }))}
      onValue={(next) => {
        if (next === "") return;
        if (isSince(next)) {
          const [first] = ofType("date");
          onChange({ op: next, field: "field" in value ? value.field : first ? refOf(first) : "" });
        } else {
          const start: Operand = { kind: "number", value: 1 };
          const sides = "left" in value ? value : { left: start, right: start };
          onChange({ op: next, left: sides.left, right: sides.right });
        }
      }}
      className="w-auto max-w-full"
    />
  );
  return (
    <span className="flex flex-wrap items-center gap-1.5">
      {"left" in value ? (
        <>
          <OperandInput
            label={`${label}: first`}
            operand={value.left}
            fields={numbers}
            onChange={(left) => onChange({ ...value, left })}
          />
          {op}
          <OperandInput
            label={`${label}: second`}
            operand={value.right}
            fields={numbers}
            onChange={(right) => onChange({ ...value, right })}
          />
        </>
      ) : (
        <>
          {op}
          <FieldChoice
            label={`${label}: date`}
            value={value.field}
            fields={ofType("date")}
            onChange={(field) => onChange({ ...value, field })}
          />
        </>
      )}
    </span>
  );
}
