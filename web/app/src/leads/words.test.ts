import { expect, test } from "vitest";

import { came } from "./words";

test("where a lead came from, a part each, without what is not known", () => {
  expect(came({ carried: {} })).toEqual([]);
  expect(came({ page: "/prices", device: "phone", carried: {} })).toEqual(["on /prices", "on a phone"]);
  expect(
    came({
      placement: "Prices pages",
      page: "/prices",
      first_page: "/",
      referrer: "https://winterlode.example/",
      first_referrer: "https://search.example/find?q=cold",
      campaign: "autumn-26, letter",
      carried: { gclid: "c1" },
    }),
  ).toEqual([
    "Prices pages on /prices",
    "first came to /",
    "from search.example",
    "campaign autumn-26, letter",
    "gclid c1",
  ]);
});
