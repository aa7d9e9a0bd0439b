import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, createElement } from "react";
import { createRoot } from "react-dom/client";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { Refusal } from "../api/client";
import { EntryForm, FormError, TextEntry } from "./EntryForm";
import { type EntryFormState, useEntryForm } from "./useEntryForm";

type Typed = { name: string; depth: string };
const EMPTY: Typed = { name: "", depth: "0.8" };

beforeEach(() => {
  Object.assign(globalThis, { IS_REACT_ACT_ENVIRONMENT: true });
  localStorage.clear();
});
afterEach(() => vi.restoreAllMocks());

/** Mount a form with two fields; return what it holds and what stands on the page. */
function mounted(upgrade?: (draft: Record<string, unknown>) => Partial<Typed>) {
  let form!: EntryFormState<Typed>;
  const page = document.createElement("div");
  document.body.append(page);
  const Probe = () => {
    form = useEntryForm<Typed>({ start: EMPTY, draft: "line-1", upgrade });
    const fields = [
      createElement(TextEntry<Typed>, { key: "name", form, name: "name", label: "Name" }),
      createElement(FormError<Typed>, { key: "error", form }),
    ];
    return createElement(EntryForm<Typed>, { form, send: async () => undefined }, fields);
  };
  const root = createRoot(page);
  const client = new QueryClient();
  act(() => root.render(createElement(QueryClientProvider, { client }, createElement(Probe))));
  return { form, page, value: () => form.getValues(), type: (p: Partial<Typed>) => act(() => form.put(p)) };
}

test("what is typed is there again after a reload, until it is saved", () => {
  mounted().type({ name: "Gas" });
  const again = mounted();
  expect(again.value()).toEqual({ name: "Gas", depth: "0.8" });
  act(() => again.form.begin(EMPTY));
  expect(mounted().value()).toEqual(EMPTY);
});

test("a form that was only looked at keeps no draft", () => {
  mounted();
  expect(localStorage.length).toBe(0);
});

test("a full store does not break the page", () => {
  vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
    throw new DOMException("full", "QuotaExceededError");
  });
  const form = mounted();
  form.type({ name: "Gas" });
  expect(form.value().name).toBe("Gas");
});

test("a broken draft and one of an earlier version open", () => {
  localStorage.setItem("vessel-draft:line-1", "{half");
  expect(mounted().value()).toEqual(EMPTY);
  localStorage.setItem("vessel-draft:line-1", JSON.stringify({ title: "Gas" }));
  expect(mounted((old) => ({ name: String(old.title) })).value()).toEqual({ name: "Gas", depth: "0.8" });
});

test("a refusal shows at the field it names, or once for the whole form", () => {
  const { form, page } = mounted();
  act(() => form.refuse(new Refusal("name.first", "No name.", "Type one.", "bad_input")));
  const box = page.querySelector("input");
  expect(box?.getAttribute("aria-invalid")).toBe("true");
  expect(page.textContent).toContain("No name. Type one.");
  expect(document.activeElement).toBe(box);
  act(() => form.refuse(new Refusal("elsewhere", "No kit.", "Choose one.", "bad_input")));
  expect(page.querySelector("[role=alert].p-3")?.textContent).toBe("No kit. Choose one.");
});
