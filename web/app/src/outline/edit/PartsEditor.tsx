import { useRef } from "react";

import type { Schemas } from "../../../../api";
import { Button, TextInput } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";
import { useUpload } from "../../fields/useUpload";
import { ChipText } from "../../text/TextBox";
import { words } from "../names";

type Part = Schemas["Part"];
type Wording = Schemas["Wording"];

const quiet = "!px-1";

/** Takes a file in, and names its media type in the dialogue; gives its hash. */
function useMedia() {
  const { change } = useShownDraft();
  const { upload, says } = useUpload();
  const take = async (file: File): Promise<string | null> => {
    const kept = await upload(file);
    if (kept) change({ op: "set_media", hash: kept.hash, media_type: kept.media_type });
    return kept?.hash ?? null;
  };
  return { upload: take, says };
}

/** What is said, shown and linked, in order: lines with other wordings, pictures, documents, links, several side by side. */
export function PartsEditor({
  parts,
  onChange,
  onDone,
}: {
  parts: Part[];
  onChange: (parts: Part[], now?: boolean) => void;
  onDone?: () => void;
}) {
  const { draft } = useShownDraft();
  const { language } = draft.dialogue;
  const { upload, says } = useMedia();
  const picker = useRef<HTMLInputElement>(null);
  const into = useRef<number | null>(null);
  const set = (place: number, part: Part, now = false) =>
    onChange(
      parts.map((known, at) => (at === place ? part : known)),
      now,
    );
  const take = (place: number) =>
    onChange(
      parts.filter((_, at) => at !== place),
      true,
    );
  const move = (place: number, by: number) => {
    const next = [...parts];
    const [part] = next.splice(place, 1);
    if (part) next.splice(place + by, 0, part);
    onChange(next, true);
  };
  const add = (part: Part) => {
    const place = into.current;
    into.current = null;
    const row = place === null ? undefined : parts[place];
    if (place !== null && row && "beside" in row) set(place, { beside: [...row.beside, part] }, true);
    else onChange([...parts, part], true);
  };
  const choose = (place: number | null) => {
    into.current = place;
    picker.current?.click();
  };
  const link = (): Part => ({ link: { label: { [language]: "Read more" }, url: "https://" } });
  return (
    <>
      {parts.map((part, place) => (
        // oxlint-disable-next-line react/no-array-index-key -- parts have no other name
        <div key={place} className="mb-1.5 flex items-start gap-2">
          <div className="min-w-0 grow">
            {"line" in part ? (
              <LineEditor
                label={`Line ${place + 1}`}
                line={part.line}
                autoFocus={place === 0}
                onChange={(line) => set(place, { line })}
                onDone={onDone}
              />
            ) : "beside" in part ? (
              <div className="rounded-md border border-line p-2">
                <p className="mb-1 text-xs text-soft">Side by side</p>
                {part.beside.map((inner, at) => (
                  // oxlint-disable-next-line react/no-array-index-key -- parts have no other name
                  <div key={at} className="mb-1.5 flex items-start gap-2">
                    <OtherPart
                      part={inner}
                      onChange={(changed) =>
                        set(place, { beside: part.beside.map((known, one) => (one === at ? changed : known)) })
                      }
                    />
                    <Button
                      look="quiet"
                      className="!text-clay"
                      onClick={() => {
                        const rest = part.beside.filter((_, one) => one !== at);
                        if (rest.length > 0) set(place, { beside: rest }, true);
                        else take(place);
                      }}
                    >
                      Take out
                    </Button>
                  </div>
                ))}
                {part.beside.length < 6 && (
                  <>
                    <Button
                      look="quiet"
                      className="-ml-1.5"
                      onClick={() => set(place, { beside: [...part.beside, link()] }, true)}
                    >
                      Add a link here
                    </Button>
                    <Button look="quiet" onClick={() => choose(place)}>
                      Add a picture or document here
                    </Button>
                  </>
                )}
              </div>
            ) : (
              <OtherPart part={part} onChange={(changed) => set(place, changed)} />
            )}
          </div>
          <span className="flex shrink-0">
            <Button
              look="quiet"
              className={quiet}
              aria-label="Move up"
              disabled={place === 0}
              onClick={() => move(place, -1)}
            >
              ↑
            </Button>
            <Button
              look="quiet"
              className={quiet}
              aria-label="Move down"
              disabled={place === parts.length - 1}
              onClick={() => move(place, 1)}
            >
              ↓
            </Button>
            <Button look="quiet" className="!text-clay" disabled={parts.length < 2} onClick={() => take(place)}>
              Take out
            </Button>
          </span>
        </div>
      ))}
      <input
        ref={picker}
        type="file"
        hidden
        aria-label="Picture or document"
        accept="image/png,image/jpeg,image/gif,image/webp,application/pdf"
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          event.target.value = "";
          if (!file) return;
          void upload(file).then((hash) => {
            if (!hash) return;
            const name = file.name.replace(/\.[^.]*$/, "").slice(0, 80);
            add(
              file.type === "application/pdf"
                ? { document: { media: hash, label: { [language]: name } } }
                : { picture: { media: hash, alt: { [language]: "" } } },
            );
          });
        }}
      />
      <div className="-ml-1.5 flex flex-wrap">
        <Button look="quiet" onClick={() => onChange([...parts, { line: { text: { [language]: "New line" } } }], true)}>
          Add a line
        </Button>
        <Button look="quiet" onClick={() => onChange([...parts, link()], true)}>
          Add a link
        </Button>
        <Button look="quiet" onClick={() => choose(null)}>
          Add a picture or document
        </Button>
        <Button look="quiet" onClick={() => onChange([...parts, { beside: [link()] }], true)}>
          Add several side by side
        </Button>
      </div>
      {says && (
        <p role="alert" className="text-sm text-clay">
          {says}
        </p>
      )}
    </>
  );
}

/** A line with its other wordings. */
export function LineEditor({
  label,
  line,
  autoFocus = false,
  onChange,
  onDone,
}: {
  label: string;
  line: Wording;
  autoFocus?: boolean;
  onChange: (line: Wording) => void;
  onDone?: () => void;
}) {
  const { draft } = useShownDraft();
  const { language } = draft.dialogue;
  const others = line.or ?? [];
  return (
    <>
      <ChipText
        label={label}
        autoFocus={autoFocus}
        value={words(line.text, language)}
        onChange={(value) => onChange({ ...line, text: { ...line.text, [language]: value } })}
        onDone={onDone}
      />
      {others.map((other, place) => (
        // oxlint-disable-next-line react/no-array-index-key -- wordings have no other name
        <div key={place} className="mt-1 flex items-start gap-2">
          <span className="pt-1.5 text-xs text-soft">or</span>
          <ChipText
            label={`${label}, other wording ${place + 1}`}
            value={words(other, language)}
            onChange={(value) =>
              onChange({
                ...line,
                or: others.map((known, at) => (at === place ? { ...known, [language]: value } : known)),
              })
            }
            onDone={onDone}
          />
          <Button
            look="quiet"
            className="!text-clay"
            onClick={() => onChange({ ...line, or: others.filter((_, at) => at !== place) })}
          >
            Take out
          </Button>
        </div>
      ))}
      <Button
        look="quiet"
        className="-ml-1.5 !text-xs"
        onClick={() => onChange({ ...line, or: [...others, { [language]: words(line.text, language) }] })}
      >
        Add another wording
      </Button>
    </>
  );
}

/** A link, picture or document. */
function OtherPart({ part, onChange }: { part: Part; onChange: (part: Part) => void }) {
  const { draft } = useShownDraft();
  const { language } = draft.dialogue;
  if ("link" in part) {
    return (
      <div className="flex min-w-0 grow gap-2">
        <TextInput
          aria-label="What the link says"
          className="font-serif"
          value={words(part.link.label, language)}
          onChange={(event) =>
            onChange({ link: { ...part.link, label: { ...part.link.label, [language]: event.target.value } } })
          }
        />
        <TextInput
          aria-label="Where the link leads"
          type="url"
          value={part.link.url}
          onChange={(event) => onChange({ link: { ...part.link, url: event.target.value } })}
        />
      </div>
    );
  }
  if ("picture" in part) {
    return (
      <div className="flex min-w-0 grow items-center gap-2">
        <img
          src={`/api/media/${part.picture.media}`}
          alt=""
          className="h-12 w-16 shrink-0 rounded-sm border border-line object-cover"
        />
        <TextInput
          aria-label="What the picture shows, for those who cannot see it"
          placeholder="What it shows, for those who cannot see it"
          className="font-serif"
          value={words(part.picture.alt, language)}
          onChange={(event) =>
            onChange({ picture: { ...part.picture, alt: { ...part.picture.alt, [language]: event.target.value } } })
          }
        />
      </div>
    );
  }
  if ("document" in part) {
    return (
      <div className="flex min-w-0 grow items-center gap-2">
        <a
          href={`/api/media/${part.document.media}`}
          target="_blank"
          rel="noreferrer"
          className="shrink-0 text-sm text-spruce underline"
        >
          Document
        </a>
        <TextInput
          aria-label="What the document is called"
          className="font-serif"
          value={words(part.document.label, language)}
          onChange={(event) =>
            onChange({
              document: { ...part.document, label: { ...part.document.label, [language]: event.target.value } },
            })
          }
        />
      </div>
    );
  }
  return null;
}
