import { Button } from "../../../kit/ui";

/** What is going on, and how far it has come. */
export type GoingOn = { what: string; at: number; of: number };

export function Going({ going, onStop }: { going: GoingOn; onStop: () => void }) {
  return (
    <p role="status" className="mt-2">
      {going.what} {going.at} of {going.of}
      <Button look="quiet" onClick={onStop}>
        Stop
      </Button>
      <progress className="ml-2 align-middle" max={going.of} value={going.at} aria-label={going.what} />
    </p>
  );
}
