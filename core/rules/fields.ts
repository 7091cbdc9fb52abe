/** The fields of a contact that rules and tags can name. */
export type FieldType = "text" | "number" | "date" | "choice";

export interface Field {
  readonly id: string;
  readonly label: string;
  readonly type: FieldType;
  /** For `choice`: what can be chosen. */
  readonly options?: readonly string[];
}
export type Fields = ReadonlyMap<string, Field>;

/** The mail address: kept in a column of its own, named like a field in rules and tags. */
export const EMAIL_FIELD: Field = { id: "email", label: "Email address", type: "text" };
