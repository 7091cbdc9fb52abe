export * from "./address.ts";
export { mergeBytes, mergeText, type PreparedBody } from "./body.ts";
export * from "./land.ts";
export {
  lineWords,
  madePicture,
  type PreparedEmail,
  type PrepareOptions,
  prepare,
  prepareBody,
  unsigned,
} from "./prepare.ts";
export * from "./refs.ts";
export * from "./values.ts";
export * from "./weight.ts";
