/** Places of the screen that find-or-do can go to: rows of the outline, fields. */
import { create } from "./store";

export type Place = { key: string; label: string; what: string; go: () => void };

export const places = create<Place[]>([]);
