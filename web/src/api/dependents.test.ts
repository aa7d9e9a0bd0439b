import { expect, test } from "vitest";
import { dependsOn } from "./dependents";

test("a station moves verdicts and lengths, not plans, kits or the site plan", () => {
  for (const key of [
    ["job", 1],
    ["job", 1, "found"],
    ["setup", 2, "trace"],
    ["station", 7],
  ])
    expect(dependsOn(key, "station")).toBe(true);
  for (const key of [
    ["jobs"],
    ["kits"],
    ["catalogue"],
    ["job", 1, "site"],
    ["line", 3, "plan"],
    ["job", 1, "work"],
  ])
    expect(dependsOn(key, "station")).toBe(false);
});

test("a kit moves every plan; a job moves everything of it", () => {
  expect(dependsOn(["line", 3, "plan", "rest"], "kit")).toBe(true);
  expect(dependsOn(["job", 1, "marking"], "job")).toBe(true);
  expect(dependsOn(["catalogue"], "job")).toBe(false);
});
