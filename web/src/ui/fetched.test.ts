import { act, createElement, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { beforeEach, expect, test } from "vitest";
import { fetched } from "./fetched";

const Page = ({ name }: { name: string }) => createElement("h1", null, name);

beforeEach(() => Object.assign(globalThis, { IS_REACT_ACT_ENVIRONMENT: true }));

/** What is on the page right after it is asked for. */
function firstSeen(Fetched: ReturnType<typeof fetched<{ name: string }>>) {
  const place = document.createElement("div");
  const page = createElement(Fetched, { name: "Trace" });
  act(() => createRoot(place).render(createElement(Suspense, { fallback: "Loading" }, page)));
  return place.textContent;
}

test("a page fetched ahead needs no fallback, another one does", async () => {
  const [there, missing] = [
    fetched(async () => ({ default: Page })),
    fetched(async () => ({ default: Page })),
  ];
  there.ahead();
  await act(async () => {});
  expect(firstSeen(there)).toBe("Trace");
  expect(firstSeen(missing)).toBe("Loading");
});
