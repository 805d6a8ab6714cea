import { describe, expect, it } from "vitest";

import { browser } from "./browser";

describe("a browser's name", () => {
  it("is told from what it calls itself", () => {
    const chrome =
      "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) HeadlessChrome/156.0 Safari/537.36";
    expect(browser(chrome)).toBe("Chromium on Linux");
    expect(browser("Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:140.0) Gecko/20100101 Firefox/140.0")).toBe(
      "Firefox on Windows",
    );
    expect(browser("Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) Version/18.0 Mobile Safari/604.1")).toBe(
      "Safari on iOS",
    );
    expect(browser("curl/8.0")).toBe("Another program");
  });
});
