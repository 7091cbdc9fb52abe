/** For Stryker: passes over all places but those drawn. A range given to it means whatever lies within it too. */
import { declareValuePlugin, PluginKind } from "@stryker-mutator/api/plugin";

/** Places that were drawn, their lines from 1. Filled by who starts Stryker, in the same process. */
const drawn = globalThis.drawnMutants ?? [];

const before = (a, b) => a.line < b.line || (a.line === b.line && a.column <= b.column);

export const strykerPlugins = [
  declareValuePlugin(PluginKind.Ignore, "drawn", {
    /** What is around a drawn place is looked into, as it cannot be passed over without what is in it. */
    shouldIgnore({ node: { loc } }) {
      const holds = drawn.some(
        ({ start, end }) => before(loc.start, start) && before(end, loc.end),
      );
      return holds ? undefined : "It was not drawn.";
    },
  }),
];
