/** A survey that is answered in the email: why it is asked, three questions, what becomes of the answers. */
import { line } from "../text/index.ts";
import { dear, footerOf, kitOf, nameOnAccent, type Scenes, templateOf } from "./parts.ts";

export function threeQuestions(scenes: Scenes | null = null) {
  const kit = kitOf(scenes);
  const { band, block, item, heading, text } = kit;
  const question = (asks: string, look: string, answers: string[]) =>
    block(
      "question",
      { asks: line(asks), look },
      answers.map((label) => item("question.answer", { label: line(label) })),
    );
  const stars = ["1 of 5", "2 of 5", "3 of 5", "4 of 5", "5 of 5"];
  return templateOf([
    nameOnAccent(kit),
    band("Why", [
      heading("Three questions, one minute"),
      text(
        dear("friend"),
        "One click answers each of them. We read every answer before the spring.",
      ),
    ]),
    band("First", [question("How did you like your last visit?", "stars", stars)], {
      background: "tint",
    }),
    band("Second", [
      question("What should there be more of?", "words", ["Walks", "Workshops", "Reading"]),
    ]),
    band("Third", [question("Would you come again?", "words", ["No", "Perhaps", "Yes"])], {
      background: "tint",
    }),
    band("What becomes of it", [
      text("What you tell us stays with us. In April we write what we have learned from it."),
    ]),
    footerOf(kit),
  ]);
}
