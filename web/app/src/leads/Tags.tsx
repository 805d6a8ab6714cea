import { useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";

import { tagsQuery } from "../lib/query";

/** The box that a tag is written into; the screen's shortcut goes there. */
export const TAG_BOX = "lead-tag";

/** Words that people put on a lead or a contact to find it again; `#` before one in the search finds those that have it. */
export function Tags({
  tags,
  works,
  onTag,
}: {
  tags: string[];
  works: boolean;
  /** Gives true where it was kept. */
  onTag: (tag: string, on: boolean) => Promise<boolean>;
}) {
  const [typed, setTyped] = useState("");
  const [writing, setWriting] = useState(false);
  const list = useId();
  const known = useQuery({ ...tagsQuery, enabled: writing }).data ?? [];
  if (!works && tags.length === 0) return null;
  const free = known.filter((tag) => !tags.includes(tag));
  return (
    <div className="mt-1 flex flex-wrap items-center gap-1.5 text-xs" role="group" aria-label="Tags">
      {tags.map((tag) => (
        <span key={tag} className="flex items-center rounded border border-line bg-oat pl-1.5">
          {tag}
          {works ? (
            <button
              type="button"
              className="grid size-6 place-items-center text-soft hover:text-clay"
              aria-label={`Take off the tag ${tag}`}
              onClick={() => void onTag(tag, false)}
            >
              ×
            </button>
          ) : (
            <span className="h-6 pr-1.5" />
          )}
        </span>
      ))}
      {works && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            const tag = typed.trim();
            if (!tag) return;
            // At once: who types the next one is not to lose its first letters when this one is kept.
            setTyped("");
            void onTag(tag, true).then((done) => done || setTyped((next) => next || tag));
          }}
        >
          <input
            id={TAG_BOX}
            aria-label="Tag"
            placeholder="+ tag"
            maxLength={31}
            list={list}
            className="-ml-1.5 h-6 w-28 rounded border border-transparent bg-transparent px-1.5 text-spruce placeholder:text-spruce hover:border-line focus:border-line"
            value={typed}
            onFocus={() => setWriting(true)}
            onChange={(event) => setTyped(event.target.value)}
            onKeyDown={(event) => event.key === "Escape" && event.currentTarget.blur()}
          />
          <datalist id={list}>
            {free.map((tag) => (
              <option key={tag} value={tag} aria-label={tag} />
            ))}
          </datalist>
        </form>
      )}
    </div>
  );
}
