import type { Body, Question } from "../talk";
import { Form } from "./Form";
import { One } from "./One";
import { Open } from "./Open";
import { ReadBack } from "./ReadBack";
import { Several } from "./Several";

/** What every sort of question needs. */
export type Answering = {
  question: Question;
  busy: boolean;
  word: (key: string) => string;
  media: (hash: string) => string;
  onAnswer: (body: Body, shown: string) => void;
  /** Where half-filled forms are kept in this browser. */
  draftKey: string;
};

/** The open question: options, several options, a form, an open question, or what was kept. */
export function Reply(props: Answering) {
  switch (props.question.kind) {
    case "several":
      return <Several {...props} />;
    case "form":
      return <Form {...props} />;
    case "open":
      return <Open {...props} />;
    case "read_back":
      return <ReadBack {...props} />;
    default:
      return <One {...props} />;
  }
}
