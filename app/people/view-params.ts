import type { View } from "#server/store/views.ts";

/** A view as it stands in an address or a form. */
export const paramsOf = ({ search, list, segment, rule, sort, down }: View) => ({
  search,
  list,
  segment,
  rule,
  sort,
  down: down ? "1" : "",
});
