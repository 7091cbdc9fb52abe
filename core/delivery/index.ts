/** What the answers of a mail service mean. */
export { judge, type Kind, PHASES, type Phase, type Verdict } from "./outcomes.ts";
export {
  type Answer,
  PAUSES,
  type Pause,
  triesItself,
  type Watch,
  waitFor,
  watchAnswers,
} from "./pausing.ts";
export { type Reply, readReply } from "./reply.ts";
export { type Failure, failureIn, isComplaint } from "./reports.ts";
