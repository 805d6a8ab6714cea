import { useRef } from "react";

import { Button, Labelled, TextInput } from "../../../kit/ui";
import { keyOf } from "../outline/make";
import type { Field } from "../outline/names";
import { words } from "../outline/names";
import { scaleEnds, scaleOptions } from "./scale";
import { useUpload } from "./useUpload";

type Options = NonNullable<Field["options"]>;
type Editing = { field: Field; language: string; onChange: (options: Options, now?: boolean) => void };

/** What may be chosen: options with a short line, other words and a picture each, or the ends of a scale. */
export function OptionsEditor({ field, language, onChange }: Editing) {
  if (field.type === "scale") return <ScaleEnds field={field} language={language} onChange={onChange} />;
  const options = field.options ?? [];
  const set = (place: number, part: Partial<Options[number]>, now = false) =>
    onChange(
      options.map((known, at) => (at === place ? { ...known, ...part } : known)),
      now,
    );
  const move = (place: number, by: number) => {
    const next = [...options];
    const [option] = next.splice(place, 1);
    if (option) next.splice(place + by, 0, option);
    onChange(next, true);
  };
  const add = () => {
    const key = keyOf(
      `option ${options.length + 1}`,
      options.map((option) => option.key),
    );
    onChange([...options, { key, label: { [language]: `Option ${options.length + 1}` } }], true);
  };
  return (
    <Labelled
      label="Options"
      hint="Other words that mean it, separated by commas, are understood when they are typed. A picture shows on the button."
    >
      {(id) => (
        <div id={id}>
          {options.map((option, place) => (
            <div key={option.key} className="mb-1 flex items-center gap-2">
              <Picture
                option={option}
                name={words(option.label, language)}
                onChange={(picture) => set(place, { picture }, true)}
              />
              <TextInput
                aria-label={`Option ${place + 1}`}
                className="font-serif"
                maxLength={120}
                value={words(option.label, language)}
                onChange={(event) => set(place, { label: { ...option.label, [language]: event.target.value } })}
              />
              <TextInput
                aria-label={`Short line under option ${place + 1}`}
                placeholder="hint"
                className="font-serif"
                maxLength={160}
                value={words(option.hint, language)}
                onChange={(event) =>
                  set(place, { hint: event.target.value ? { ...option.hint, [language]: event.target.value } : null })
                }
              />
              <TextInput
                aria-label={`Other words for option ${place + 1}`}
                placeholder="other words"
                defaultValue={(option.also ?? []).join(", ")}
                onChange={(event) =>
                  set(place, {
                    also: event.target.value
                      .split(",")
                      .map((word) => word.trim())
                      .filter(Boolean),
                  })
                }
              />
              <span className="flex shrink-0">
                <Button
                  look="quiet"
                  aria-label={`Move option ${place + 1} up`}
                  disabled={place === 0}
                  className="disabled:text-line"
                  onClick={() => move(place, -1)}
                >
                  ↑
                </Button>
                <Button
                  look="quiet"
                  aria-label={`Take out option ${place + 1}`}
                  disabled={options.length < 2}
                  className="disabled:text-line"
                  onClick={() =>
                    onChange(
                      options.filter((_, at) => at !== place),
                      true,
                    )
                  }
                >
                  ×
                </Button>
              </span>
            </div>
          ))}
          <Button look="quiet" className="-ml-1.5" onClick={add}>
            Add an option
          </Button>
        </div>
      )}
    </Labelled>
  );
}

/** The picture of an option, or a place to put one. */
function Picture({
  option,
  name,
  onChange,
}: {
  option: Options[number];
  name: string;
  onChange: (hash: string | null) => void;
}) {
  const picker = useRef<HTMLInputElement>(null);
  const { upload, says } = useUpload();
  return (
    <>
      <input
        ref={picker}
        type="file"
        hidden
        aria-label={`Picture file of ${name}`}
        accept="image/png,image/jpeg,image/webp,image/gif"
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          event.target.value = "";
          if (file) void upload(file).then((kept) => kept && onChange(kept.hash));
        }}
      />
      <button
        type="button"
        title={option.picture ? "Take the picture out" : "Add a picture"}
        aria-label={option.picture ? `Take out the picture of ${name}` : `Add a picture to ${name}`}
        className="flex size-8 shrink-0 items-center justify-center overflow-hidden rounded-sm border border-dashed border-line text-soft hover:border-soft"
        onClick={() => (option.picture ? onChange(null) : picker.current?.click())}
      >
        {option.picture ? <img src={`/api/media/${option.picture}`} alt="" className="size-full object-cover" /> : "+"}
      </button>
      {says && (
        <span role="alert" className="text-xs text-clay">
          {says}
        </span>
      )}
    </>
  );
}

/** The ends of a scale with their words. */
function ScaleEnds({ field, language, onChange }: Editing) {
  const ends = scaleEnds(field, language);
  const set = (part: Partial<typeof ends>) => onChange(scaleOptions(field, language, { ...ends, ...part }));
  const end = (side: "from" | "to", label: string) => (
    <TextInput
      type="number"
      aria-label={label}
      className="!w-16"
      min={-100}
      max={100}
      value={ends[side]}
      onChange={(event) => set({ [side]: Number(event.target.value) })}
    />
  );
  return (
    <Labelled label="Scale" hint="At most 21 steps. The words at the ends are understood when they are typed.">
      {(id) => (
        <div id={id} className="flex flex-wrap items-center gap-2">
          from {end("from", "Lowest step")}
          <TextInput
            aria-label="Words at the low end"
            placeholder="in words"
            className="!w-40 font-serif"
            value={ends.low}
            onChange={(event) => set({ low: event.target.value })}
          />
          to {end("to", "Highest step")}
          <TextInput
            aria-label="Words at the high end"
            placeholder="in words"
            className="!w-40 font-serif"
            value={ends.high}
            onChange={(event) => set({ high: event.target.value })}
          />
        </div>
      )}
    </Labelled>
  );
}
