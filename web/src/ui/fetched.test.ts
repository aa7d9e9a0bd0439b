import { act, createElement, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { beforeEach, expect, test } from "vitest";
import { fetched } from "./fetched";

const Page = ({ name }: { name: string }) => createElement("h1", null, name);

beforeEach(() => Object.assign(globalThis, { IS_REACT_ACT_ENVIRONMENT: true }));

/** Show a page; return what stands there at once. */
function shown(Fetched: ReturnType<typeof fetched<{ name: string }>>) {
  const place = document.createElement("div");
  const root = createRoot(place);
  const page = createElement(Fetched, { name: "Trace" });
  act(() => root.render(createElement(Suspense, { fallback: "Loading" }, page)));
  return place;
}

test("a page that was fetched ahead is shown at once", async () => {
  const Fetched = fetched(async () => ({ default: Page }));
  expect(shown(Fetched).textContent).toBe("Loading");
  Fetched.ahead();
  await act(async () => {});
  expect(shown(Fetched).textContent).toBe("Trace");
});
