import type { ReactNode } from "react";

import type { Schemas } from "../../../api";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { type Rule, ruleWords } from "../fields/rules";
import { laterKinds } from "./edit/LineAndFields";
import { SectionLink } from "./OutlineRow";
import { Words } from "./Words";
import type { Dialogue, Turn } from "./names";
import { fieldOf, typeLabels, usualCard, words } from "./names";

/** What a turn does, at a glance. */
export function TurnBody({ turn, onGoTo }: { turn: Turn; onGoTo: (section: string) => void }): ReactNode {
  const { draft } = useShownDraft();
  const { dialogue } = draft;
  const said = (text: Record<string, string>) => <Words dialogue={dialogue} text={words(text, dialogue.language)} />;
  const keeps = "mt-0.5 text-xs text-soft [&_b]:font-semibold [&_b]:text-ink";
  switch (turn.kind) {
    case "tell":
      return (
        <div className="text-lg leading-snug">
          {turn.say.map((part, place) => (
            // oxlint-disable-next-line react/no-array-index-key -- parts have no other name
            <div key={place}>
              <PartWords dialogue={dialogue} part={part} />
            </div>
          ))}
        </div>
      );
    case "ask": {
      const field = fieldOf(dialogue, turn.field);
      const loose = (rule: Rule) => (turn.loosens ?? []).includes(rule.rule);
      return (
        <>
          <div className="text-lg leading-snug">{said(turn.say.text)}</div>
          <p className={keeps}>
            keeps <b>{field?.label ?? `a field that is gone (${turn.field})`}</b>
            {field && `, ${typeLabels[field.type]}`}
            {field?.unit && ` in ${field.unit}`}
            {(field?.rules ?? []).map((rule) => `, ${ruleWords(rule)}${loose(rule) ? " left out" : ""}`)}
            {(turn.rules ?? []).map((rule) => `, ${ruleWords(rule)}`)}
            {turn.skip ? `, may be skipped (“${words(turn.skip, dialogue.language)}”)` : ""}
            {typeof turn.way_out === "object" && "go_to" in turn.way_out && (
              <>
                , after {turn.tries} tries to <SectionLink id={turn.way_out.go_to} onGoTo={onGoTo} />
              </>
            )}
          </p>
        </>
      );
    }
    case "fork":
      return (
        <span className="text-soft">{(turn.arms ?? []).length === 0 ? "no arms yet" : "the first that holds"}</span>
      );
    case "work_out":
      return (
        <>
          {turn.fills.length === 0 && <span className="text-soft">fills nothing yet</span>}
          {turn.fills.map((fill) => (
            <div key={fill.field} className="mb-0.5">
              <code className="font-mono text-[12.5px] break-words">
                {fill.field} = {fill.formula}
                {fill.starts && <span className="text-soft">, starting at {fill.starts}</span>}
              </code>
              <p className={keeps}>
                keeps <b>{fieldOf(dialogue, fill.field)?.label ?? fill.field}</b>,{" "}
                {typeLabels[fieldOf(dialogue, fill.field)?.type ?? "text"]}
              </p>
            </div>
          ))}
        </>
      );
    case "file_lead": {
      const card = dialogue.scorecards?.find((known) => known.id === turn.scorecard) ?? usualCard(dialogue);
      return (
        <span>
          Scores{card ? ` by “${card.title}”` : " nothing: there is no scorecard"}, files the lead
          {turn.early ? ", and picks its owner later" : " and picks its owner"}
        </span>
      );
    }
    case "visit":
      return (
        <span>
          <SectionLink id={turn.section} onGoTo={onGoTo} /> <span className="text-soft">and back</span>
        </span>
      );
    case "close":
      return (
        <>
          {turn.say && <div className="text-lg leading-snug">{said(turn.say.text)}</div>}
          {turn.link && <LinkWords dialogue={dialogue} link={turn.link} />}
          <p className={keeps}>
            ends as <b>{dialogue.outcomes.find((known) => known.id === turn.outcome)?.label ?? turn.outcome}</b>
          </p>
        </>
      );
    default:
      return (
        <>
          <div className="text-lg leading-snug">{said(turn.say.text)}</div>
          <p className={keeps}>
            {fieldWords(dialogue, turn)}
            {laterKinds.includes(turn.kind) && "; a later version runs it"}
          </p>
        </>
      );
  }
}

/** What a turn with a line and fields does with them. */
function fieldWords(dialogue: Dialogue, turn: Turn): string {
  const labels = (keys: string[]) =>
    keys.length === 0 ? "no field yet" : keys.map((key) => fieldOf(dialogue, key)?.label ?? key).join(", ");
  switch (turn.kind) {
    case "ask_together":
      return `asks on one form for ${labels(turn.fields.map((field) => field.field))}`;
    case "open_ask":
      return `reads ${labels(turn.fields)}`;
    case "read_back":
      return `shows ${labels(turn.fields)}`;
    case "take_questions":
      return "answers from the facts until they are done";
    case "consult":
      return `sends ${labels(turn.send)} to ${turn.destination || "no destination yet"}, waits ${turn.wait_seconds} s`;
    case "offer_times":
      return `offers ${turn.minutes} minutes within ${turn.days_ahead} days`;
    case "bring_in_rep":
      return `waits ${turn.wait_seconds} s for a rep`;
    default:
      return "";
  }
}

function PartWords({ dialogue, part }: { dialogue: Dialogue; part: Schemas["Part"] }) {
  if ("line" in part) {
    const others = part.line.or?.length ?? 0;
    return (
      <>
        <Words dialogue={dialogue} text={words(part.line.text, dialogue.language)} />
        {others > 0 && (
          <span className="ml-2 font-sans text-xs text-soft">
            or {others === 1 ? "another wording" : `${others} other wordings`}
          </span>
        )}
      </>
    );
  }
  if ("link" in part) return <LinkWords dialogue={dialogue} link={part.link} />;
  if ("beside" in part)
    return (
      <span className="flex flex-wrap gap-2">
        {part.beside.map((inner, place) => (
          // oxlint-disable-next-line react/no-array-index-key -- parts have no other name
          <span key={place} className="rounded-md border border-line px-2 py-0.5">
            <PartWords dialogue={dialogue} part={inner} />
          </span>
        ))}
      </span>
    );
  if ("picture" in part)
    return (
      <span className="flex items-center gap-2 font-sans text-sm text-soft">
        <img
          src={`/api/media/${part.picture.media}`}
          alt=""
          className="h-10 max-w-24 rounded-sm border border-line object-cover"
        />
        {words(part.picture.alt, dialogue.language) || "a picture without words for those who cannot see it"}
      </span>
    );
  return <span className="font-sans text-sm text-soft">document: {words(part.document.label, dialogue.language)}</span>;
}

function LinkWords({ dialogue, link }: { dialogue: Dialogue; link: Schemas["Link"] }) {
  return (
    <span className="text-sm">
      <span className="font-serif underline">{words(link.label, dialogue.language)}</span>{" "}
      <span className="text-xs text-soft">{link.url}</span>
    </span>
  );
}
