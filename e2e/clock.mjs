/** Loaded before the application by tests that let time go by: at SIGUSR2 its clock moves on by ten minutes. */
const STEP = 600_000;
const Real = Date;
let ahead = 0;
process.on("SIGUSR2", () => {
  ahead += STEP;
});
globalThis.Date = class extends Real {
  constructor(...given) {
    if (given.length === 0) super(Real.now() + ahead);
    else super(...given);
  }
  static now() {
    return Real.now() + ahead;
  }
};
