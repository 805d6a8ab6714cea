/** Rows that were copied from a spreadsheet. */

/** Reads rows copied from a spreadsheet: tabs between cells, or commas where there is no tab. */
export function readRows(text: string): string[][] {
  const sign = text.includes("\t") ? "\t" : ",";
  return text
    .split(/\r?\n/)
    .filter((line) => line.trim())
    .map((line) => line.split(sign).map((cell) => cell.trim().slice(0, 500)));
}
