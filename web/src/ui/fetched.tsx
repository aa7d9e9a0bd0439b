import { type ComponentType, lazy, useState } from "react";

type Fetch<P> = () => Promise<{ default: ComponentType<P> }>;

/**
 * A component whose script is fetched when it is first shown, or before that by `ahead`. If the script is there, the
 * component needs no fallback; React's own `lazy` shows one even then, and keeps it for 300 ms.
 */
export function fetched<P extends object>(fetch: Fetch<P>) {
  let there: ComponentType<P> | null = null;
  const get = async () => {
    const module = await fetch();
    there = module.default;
    return module;
  };
  const Late = lazy(get) as unknown as ComponentType<P>;
  function Fetched(p: P) {
    const [Shown] = useState(() => there ?? Late);
    return <Shown {...p} />;
  }
  /** Fetch it ahead; whoever shows it asks again, and says what is wrong. */
  Fetched.ahead = () => void get().catch(() => undefined);
  return Fetched;
}
