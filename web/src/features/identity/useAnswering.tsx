import { api, asRefusal, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { useToast } from "../../ui/Toasts";
import { useConsequences } from "../consequences/useConsequences";

type Kind = Schemas["QuestionView"]["kind"];
type Tapped = Pick<Schemas["AnswerView"], "answer" | "label"> & Partial<Pick<Schemas["AnswerView"], "along">>;

/** What is typed with an answer: its place, and what was read with it. */
export type Typed = { distance: string; own: string; other: string; depth: string };

/** What is wrong with what was typed. */
export type Wrong = { field: string; text: string };

type Said = Typed & Omit<Tapped, "label"> & { kind: Kind; note: string };

export const NOTHING_TYPED: Typed = { distance: "", own: "", other: "", depth: "" };

/**
 * Answers to what shows which line this is: given, with what they would do to verdicts asked first, and taken back.
 * `changes` goes where the answers are; `say` returns what is wrong with what was typed, if that is refused.
 */
export function useAnswering(setup_id: number) {
  const toast = useToast();
  const strike = useChange("identity", ({ id, why }: { id: number; why: string }) =>
    take(
      api.DELETE("/api/identity/{evidence_id}", {
        params: { path: { evidence_id: id }, query: { why } },
      }),
    ),
  );
  const restore = useChange("identity", (evidence_id: number) =>
    take(api.POST("/api/identity/{evidence_id}/restore", { params: { path: { evidence_id } } })),
  );
  const add = useChange("identity", (body: Said) =>
    take(api.POST("/api/setups/{setup_id}/identity", { params: { path: { setup_id } }, body })),
  );
  const changes = useConsequences(
    (body: Said, signal) =>
      take(
        api.POST("/api/setups/{setup_id}/identity/consequences", {
          params: { path: { setup_id } },
          body,
          signal,
        }),
      ),
    { onlyWorse: true },
  );
  const keep = async (said: Said, label: string, onKept = () => {}): Promise<Wrong | undefined> => {
    try {
      if (!(await changes.allowed(said))) return undefined;
      const { id, along_id } = await add.mutateAsync(said);
      onKept();
      await changes.settle();
      toast(`Saved: ${label}. ${changes.said.current}`.trim(), async () => {
        // one after the other: what was answered along with it first
        if (along_id !== null) await strike.mutateAsync({ id: along_id, why: "Undone at once" });
        await strike.mutateAsync({ id, why: "Undone at once" });
      });
    } catch (e) {
      const refusal = asRefusal(e);
      if (refusal.field && refusal.field in NOTHING_TYPED)
        return { field: refusal.field, text: refusal.text };
      toast(refusal.text);
    }
    return undefined;
  };
  const say = (kind: Kind, { answer, along, label }: Tapped, typed: Typed = NOTHING_TYPED) =>
    keep({ kind, answer, along, note: "", ...typed }, label);
  const takeBack = (id: number, why: string) =>
    strike.mutateAsync({ id, why }).then(
      () => toast("Answer struck out.", () => restore.mutate(id)),
      (e) => toast(asRefusal(e).text),
    );
  const busy = add.isPending || changes.checking;
  return { say, keep, strike, takeBack, restore, busy, changes: changes.shown };
}
