/** The browser and system of a user agent, in words; the names stand in every such text, in this order of telling. */

const browsers: [RegExp, string][] = [
  [/Edg\//, "Edge"],
  [/OPR\//, "Opera"],
  [/Firefox\//, "Firefox"],
  [/Chrom(e|ium)\//, "Chromium"],
  [/Safari\//, "Safari"],
];

const systems: [RegExp, string][] = [
  [/iPhone|iPad/, "iOS"],
  [/Android/, "Android"],
  [/Windows/, "Windows"],
  [/Mac OS X/, "macOS"],
  [/Linux/, "Linux"],
];

const first = (table: [RegExp, string][], agent: string) => table.find(([sign]) => sign.test(agent))?.[1];

export function browser(agent: string): string {
  const [name, system] = [first(browsers, agent), first(systems, agent)];
  if (name && system) return `${name} on ${system}`;
  return name ?? system ?? "Another program";
}
