import { type ComponentType, useEffect, useState } from "react";
import { Loading } from "./Wait";

type Fetch<P> = () => Promise<{ default: ComponentType<P> }>;

/**
 * A component whose script is fetched when it is first shown, or before that by `ahead`; until it is there, `Meanwhile`
 * is shown. React's own `lazy` would keep its fallback for 300 ms, however soon the script comes.
 */
export function fetched<P extends object>(fetch: Fetch<P>, Meanwhile: ComponentType<P> = Loading) {
  let there: ComponentType<P> | null = null;
  const get = async () => {
    const module = await fetch();
    there = module.default;
    return there;
  };
  function Fetched(p: P) {
    const [Shown, setShown] = useState(() => there);
    const [failed, setFailed] = useState<{ error: unknown } | null>(null);
    useEffect(() => {
      if (Shown) return;
      let wanted = true;
      get().then(
        (component) => wanted && setShown(() => component),
        (error: unknown) => wanted && setFailed({ error }),
      );
      return () => {
        wanted = false;
      };
    }, [Shown]);
    if (failed) throw failed.error;
    return Shown ? <Shown {...p} /> : <Meanwhile {...p} />;
  }
  /** Fetch it ahead; whoever shows it asks again, and says what is wrong. */
  Fetched.ahead = () => void get().catch(() => undefined);
  return Fetched;
}

/** What is shown meanwhile where nothing should be. */
export const Nothing = () => null;
