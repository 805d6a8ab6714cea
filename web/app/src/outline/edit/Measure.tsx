import { useShownDraft } from "../../dialogue/DialogueScreen";

/** LIX in words, after Björnsson’s own scale. */
function ease(lix: number): string {
  if (lix < 30) return "reads very easily";
  if (lix < 40) return "reads easily";
  if (lix < 50) return "reads like a newspaper";
  if (lix < 60) return "reads like a report";
  return "hard to read";
}

/** How long a turn's longest text is, and how easily it reads. */
export function Measure({ turn }: { turn: string }) {
  const { draft } = useShownDraft();
  const measure = draft.measures[turn];
  if (!measure || measure.characters === 0) return null;
  return (
    <p className="mt-1 text-xs text-soft">
      {measure.characters} characters, {measure.lines} line{measure.lines === 1 ? "" : "s"} on a phone,{" "}
      {ease(measure.lix)}
    </p>
  );
}
