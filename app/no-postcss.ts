/** Stands for the parser of CSS in the browser, where nothing asks for it. */
export const parse = (): never => {
  throw new Error("Styles are not parsed here.");
};
