import { Button } from "../../../kit/ui";

/** What to do in an outline with next to nothing in it. */
export function FirstLine({ onAdd }: { onAdd: () => void }) {
  return (
    <div className="px-8 py-10 text-soft">
      <p>
        Begin with one easy question: what they need, not who they are. A line that ends with a question mark is asked;
        any other is said.
      </p>
      <p className="mt-1">An indented outline from anywhere else can be pasted here as it is.</p>
      <Button look="primary" className="mt-3" onClick={onAdd}>
        Write the first line
      </Button>
    </div>
  );
}
