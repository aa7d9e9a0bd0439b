import { act, createElement } from "react";
import { createRoot } from "react-dom/client";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { useDraft } from "./draft";

type Form = { name: string; depth: string };
const EMPTY: Form = { name: "", depth: "0.8" };

beforeEach(() => {
  Object.assign(globalThis, { IS_REACT_ACT_ENVIRONMENT: true });
  localStorage.clear();
});
afterEach(() => vi.restoreAllMocks());

/** Mount a form's draft and return what it holds and how to change it. */
function mounted(upgrade?: (draft: Record<string, unknown>) => Partial<Form>) {
  let held!: ReturnType<typeof useDraft<Form>>;
  const Probe = () => {
    held = useDraft("line-1", EMPTY, upgrade);
    return null;
  };
  const root = createRoot(document.createElement("div"));
  act(() => root.render(createElement(Probe)));
  return {
    value: () => held[0],
    change: (p: Partial<Form>) => act(() => held[1](p)),
    clear: () => act(() => held[2](EMPTY)),
  };
}

test("what is typed is there again after a reload, until it is saved", () => {
  mounted().change({ name: "Gas" });
  const again = mounted();
  expect(again.value()).toEqual({ name: "Gas", depth: "0.8" });
  again.clear();
  expect(mounted().value()).toEqual(EMPTY);
});

test("a full store does not break the page", () => {
  vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
    throw new DOMException("full", "QuotaExceededError");
  });
  const form = mounted();
  form.change({ name: "Gas" });
  expect(form.value().name).toBe("Gas");
});

test("a broken draft and one of an earlier version open", () => {
  localStorage.setItem("vessel-draft:line-1", "{half");
  expect(mounted().value()).toEqual(EMPTY);
  localStorage.setItem("vessel-draft:line-1", JSON.stringify({ title: "Gas" }));
  expect(mounted((old) => ({ name: String(old.title) })).value()).toEqual({ name: "Gas", depth: "0.8" });
});
