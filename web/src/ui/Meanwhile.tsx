import { type FieldValues, type Path, useFormState } from "react-hook-form";
import { Button } from "./Button";
import type { EntryFormState } from "./useEntryForm";

type Seen = FieldValues & { seen?: number | null };

/**
 * What to do when somebody else changed what a form was filled from: take theirs, see both, or overwrite. `fresh`
 * returns the form filled from what is stored now, `send` saves.
 */
export function Meanwhile<T extends Seen>(p: {
  form: EntryFormState<T>;
  fresh: () => Promise<T>;
  send: (values: T) => Promise<unknown>;
}) {
  const { form } = p;
  const { errors, defaultValues } = useFormState({ control: form.control });
  if (errors.root?.refusal?.type !== "changed_meanwhile") return null;
  const theirs = () => p.fresh().then(form.begin, form.refuse);
  const both = () => {
    const typed = form.getValues();
    const mine = Object.entries(typed).filter(
      ([k, v]) => k !== "seen" && JSON.stringify(v) !== JSON.stringify((defaultValues as Seen)?.[k]),
    );
    return p.fresh().then((now) => {
      form.begin(now);
      form.put(Object.fromEntries(mine) as Partial<T>);
    }, form.refuse);
  };
  const mine = () => {
    form.setValue("seen" as Path<T>, null as never);
    return form.sending(p.send)();
  };
  return (
    <div className="mt-2 flex flex-wrap gap-2" data-meanwhile>
      <Button onClick={theirs}>Take theirs</Button>
      <Button onClick={both}>Put mine into theirs</Button>
      <Button look="stop" onClick={mine}>
        Save mine over it
      </Button>
    </div>
  );
}
