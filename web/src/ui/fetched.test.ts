import { act, createElement } from "react";
import { createRoot } from "react-dom/client";
import { ErrorBoundary } from "react-error-boundary";
import { beforeEach, expect, test, vi } from "vitest";
import { fetched } from "./fetched";

const Page = ({ name }: { name: string }) => createElement("h1", null, name);
const Meanwhile = () => createElement("p", null, "Loading");

beforeEach(() => Object.assign(globalThis, { IS_REACT_ACT_ENVIRONMENT: true }));

/** The place on the page where it is shown, as it is right after it is asked for. */
function shown(Fetched: ReturnType<typeof fetched<{ name: string }>>) {
  const place = document.createElement("div");
  const page = createElement(Fetched, { name: "Trace" });
  const bounded = createElement(ErrorBoundary, { fallback: "This page failed", children: page });
  act(() => createRoot(place).render(bounded));
  return place;
}

test("a page fetched ahead is there at once, another one as soon as its script is", async () => {
  const [there, missing] = [
    fetched(async () => ({ default: Page }), Meanwhile),
    fetched(async () => ({ default: Page }), Meanwhile),
  ];
  there.ahead();
  await act(async () => {});
  expect(shown(there).textContent).toBe("Trace");
  const late = shown(missing);
  expect(late.textContent).toBe("Loading");
  await act(async () => {});
  expect(late.textContent).toBe("Trace");
});

test("a page whose script cannot be fetched says so, and is fetched anew when it is shown again", async () => {
  const complaint = vi.spyOn(console, "error").mockImplementation(() => undefined);
  const fetch = vi.fn().mockRejectedValueOnce(new Error("no network")).mockResolvedValue({ default: Page });
  const page = fetched<{ name: string }>(fetch, Meanwhile);
  const first = shown(page);
  await act(async () => {});
  expect(first.textContent).toBe("This page failed");
  const again = shown(page);
  await act(async () => {});
  expect(again.textContent).toBe("Trace");
  complaint.mockRestore();
});
