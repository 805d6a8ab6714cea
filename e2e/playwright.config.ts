import { defineConfig } from "@playwright/test";

const chromium = {
  viewport: { width: 1280, height: 800 },
  locale: "en-GB",
  timezoneId: "Europe/London",
  // Lines come at once; the test of the pace asks for motion itself.
  contextOptions: { reducedMotion: "reduce" as const },
  launchOptions: {
    // Debian's browser: nothing is downloaded.
    executablePath: process.env.LUMBO_CHROMIUM ?? "/usr/lib/chromium/chromium-headless-shell",
    args: ["--no-sandbox", "--disable-background-networking"],
  },
  trace: "retain-on-failure" as const,
};

export default defineConfig({
  timeout: 60_000,
  expect: { timeout: 8_000 },
  workers: 2,
  // Shared machines stall now and then; a second try starts a fresh server and database.
  retries: process.env.CI ? 1 : 0,
  fullyParallel: false,
  reporter: [["list"]],
  projects: [
    { name: "browser", testDir: "tests", use: chromium },
    // Recording a trace would be measured as well.
    { name: "bench", testDir: "bench", use: { ...chromium, trace: "off" } },
    { name: "shots", testDir: "shots", use: chromium },
  ],
});
