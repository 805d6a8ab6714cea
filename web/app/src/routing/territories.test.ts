import { expect, test } from "vitest";

import { groupsOf, listed, rowsOf } from "./territories";

const queues = [
  { key: "saltwick", name: "Saltwick depot" },
  { key: "senior", name: "Senior reps, south" },
];

test("rows are gathered by queue and typed back as they were", () => {
  const rows = [
    { starts: "SW", queue: "saltwick" },
    { starts: "DE 10", queue: "senior" },
    { starts: "SE", queue: "saltwick" },
  ];
  const groups = groupsOf(rows);
  expect(groups).toEqual([
    { queue: "saltwick", text: "SW, SE" },
    { queue: "senior", text: "DE 10" },
  ]);
  expect(rowsOf(groups)).toEqual([rows[0], rows[2], rows[1]]);
  expect(rowsOf([{ queue: "saltwick", text: " SW1;SE ,\n\n BR," }])).toEqual([
    { starts: "SW1", queue: "saltwick" },
    { starts: "SE", queue: "saltwick" },
    { starts: "BR", queue: "saltwick" },
  ]);
  expect(groupsOf(undefined)).toEqual([]);
});

test("a list names its queues, and lines that name none are given back", () => {
  const { rows, bad } = listed("SW1\tsaltwick DEPOT\nBR;senior\n\nTarn Quay, saltwick\nNE,Nowhere\nalone\n", queues);
  expect(rows).toEqual([
    { starts: "SW1", queue: "saltwick" },
    { starts: "BR", queue: "senior" },
    { starts: "Tarn Quay", queue: "saltwick" },
  ]);
  expect(bad).toEqual(["NE,Nowhere", "alone"]);
});
