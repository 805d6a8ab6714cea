/** What a placement gives the page: who is talking, their colour, day or night. */
import type { Placed } from "./talk";

/** Puts the author's colours in place of ours, each moved until it can be read where it is used. */
export function wear({ look: { colours, daylight, name } }: Placed): void {
  const page = document.documentElement;
  const set = (what: string, day: string, night: string) =>
    page.style.setProperty(what, `light-dark(${day}, ${night})`);
  set("--spruce", colours.day, colours.night);
  set("--on-spruce", colours.on_day, colours.on_night);
  page.style.setProperty("--spruce-wash", "color-mix(in srgb, var(--spruce) 12%, var(--paper))");
  if (daylight !== "visitor") page.dataset.daylight = daylight;
  page.dataset.placed = "yes";
  if (name) document.title = name;
}

/** Who is talking, and the way out. */
export function Who({ placed, word }: { placed: Placed; word: (key: string) => string }) {
  const { look, close } = placed;
  if (!look.name && !close) return null;
  return (
    <header className="who">
      {look.picture && <img src={look.picture} alt="" width={32} height={32} />}
      <span>{look.name}</span>
      {close && (
        <button type="button" aria-label={word("close")} onClick={close}>
          ×
        </button>
      )}
    </header>
  );
}

/** Letters typed anywhere go into the box; only Enter and Space on something that is focused press it. */
export function typesInto(event: KeyboardEvent): void {
  const { key, ctrlKey, metaKey, altKey, target } = event;
  if (key.length !== 1 || key === " " || ctrlKey || metaKey || altKey) return;
  if (!(target instanceof HTMLElement) || target.closest("input, textarea, select, [contenteditable]")) return;
  const boxes = document.querySelectorAll<HTMLElement>("main textarea, main input:not([type=checkbox], [type=radio])");
  if (boxes.length === 1) boxes[0]?.focus();
}
