import { BaseSequencer, type TestSpecification } from "vitest/node";

/** The files that take longest by far. */
const LONG = ["walk", "axe", "start"];

/** Begins with the long ones, so that no worker stands idle while the last of them runs. */
export class LongFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const rank = ({ moduleId }: TestSpecification) => {
      const at = LONG.findIndex((name) => moduleId.endsWith(`/${name}.e2e.ts`));
      return at < 0 ? LONG.length : at;
    };
    return (await super.sort(files)).sort((a, b) => rank(a) - rank(b));
  }
}
