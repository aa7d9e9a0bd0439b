/** A refusal that no field carries. */
export const Refused = ({ text }: { text: string }) => (
  <p role="alert" className="rounded-md border-2 border-hold bg-hold-bg p-3 font-semibold text-hold">
    {text}
  </p>
);
