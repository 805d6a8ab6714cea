import { describe, expect, it } from "vitest";

import { erasureWords, leadsWords, mergeLeadsWords, nameOf, sourceWords } from "./words";

describe("contacts and companies in words", () => {
  it("says where a value came from", () => {
    expect(sourceWords({ by: "conversation", from: "Storage enquiry" })).toBe("said in “Storage enquiry”");
    expect(sourceWords({ by: "conversation", from: null })).toBe("said in a conversation");
    expect(sourceWords({ by: "person", from: "Maren Holt" })).toBe("by Maren Holt");
    expect(sourceWords({ by: "person", from: null })).toBe("by somebody who has left");
  });

  it("counts leads and those that are open", () => {
    expect(leadsWords(0, 0)).toBe("no leads");
    expect(leadsWords(1, 1)).toBe("1 lead, open");
    expect(leadsWords(3, 1)).toBe("3 leads, 1 open");
    expect(leadsWords(1200, 0)).toBe("1,200 leads");
  });

  it("names somebody by what is known of them", () => {
    expect(nameOf({ name: null, email: "pia@harrowpeel.example" })).toBe("pia@harrowpeel.example");
    expect(nameOf({})).toBe("No name given");
  });

  it("says what moves when two become one", () => {
    expect(mergeLeadsWords(0, "Pia")).toBe("No lead moves to Pia.");
    expect(mergeLeadsWords(1, "Pia")).toBe("1 lead moves to Pia.");
    expect(mergeLeadsWords(2, "Pia")).toBe("2 leads move to Pia.");
  });

  it("says what erasing blanks, and of destinations only where there are some", () => {
    expect(erasureWords({ leads: 1, conversations: 2, told: 0 })).toEqual([
      "their name, address, number and everything else on file",
      "1 lead: answers, transcripts, notes and what was sent",
      "2 conversations, word for word",
    ]);
    expect(erasureWords({ leads: 0, conversations: 0, told: 1 }).at(-1)).toBe("1 destination is told to delete it too");
  });
});
