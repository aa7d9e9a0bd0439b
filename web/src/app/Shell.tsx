import { useIsFetching } from "@tanstack/react-query";
import { Keyboard, Moon, Sun, SunDim } from "lucide-react";
import { useEffect, useState } from "react";
import { ErrorBoundary } from "react-error-boundary";
import { Link, NavLink, Outlet, useLocation, useNavigationType } from "react-router";
import { WhoButton, WhoWorks } from "../features/who/WhoWorks";
import { Button } from "../ui/Button";
import { keep } from "../ui/draft";
import { useKeys } from "../ui/keys";
import { Sheet } from "../ui/Sheet";
import { Toasts } from "../ui/Toasts";
import { Broken } from "./Broken";
import { useOthersChanges } from "./useOthersChanges";

const THEMES = ["light", "dark", "sun"] as const;
type Theme = (typeof THEMES)[number];
const THEME_LABEL: Record<Theme, string> = { light: "Light", dark: "Dark", sun: "Full sun" };
const THEME_ICON = { light: Sun, dark: Moon, sun: SunDim };

const KEYS = [
  ["?", "Show this list"],
  ["1 to 5", "Plan, Hook up, Sweep, Trace, Mark of the open line"],
  ["n", "Go to the next station's distance"],
  ["Arrow keys", "In the yard: step ahead, back and aside; with Shift slowly"],
  ["q, e, l", "In the yard: turn left, turn right, lift"],
  ["Enter", "Save the form you are in"],
  ["Tab, Shift+Tab", "Next and previous field"],
  ["Esc", "Close a dialog"],
];

function useTheme() {
  const [theme, setTheme] = useState<Theme>(() => {
    const saved = localStorage.getItem("vessel-theme");
    return THEMES.find((t) => t === saved) ?? "light";
  });
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    keep("vessel-theme", theme);
  }, [theme]);
  return [theme, () => setTheme((t) => THEMES[(THEMES.indexOf(t) + 1) % THEMES.length] ?? "light")] as const;
}

/** The page: `data-page` is the address it shows, `aria-busy` is set while an answer is on its way. */
function Page() {
  const { pathname } = useLocation();
  const jobId = Number(/^\/jobs\/(\d+)/.exec(pathname)?.[1]) || undefined;
  useOthersChanges(jobId);
  const busy = useIsFetching() > 0;
  const how = useNavigationType();
  // another page begins at its top; the one gone back to is as it was left
  useEffect(() => {
    if (how !== "POP") window.scrollTo(0, 0);
  }, [pathname, how]);
  return (
    <main
      id="work"
      tabIndex={-1}
      className="flex grow flex-col outline-none"
      aria-busy={busy}
      data-page={pathname}
    >
      <WhoWorks jobId={jobId} />
      <ErrorBoundary FallbackComponent={Broken} resetKeys={[pathname]}>
        <Outlet />
      </ErrorBoundary>
    </main>
  );
}

export function Shell() {
  const [theme, nextTheme] = useTheme();
  const [help, setHelp] = useState(false);
  useKeys({ "?": () => setHelp(true) });
  const Icon = THEME_ICON[theme];
  return (
    <Toasts>
      <div className="flex min-h-dvh flex-col">
        <button
          type="button"
          className="sr-only focus:not-sr-only focus:fixed focus:top-2 focus:left-2 focus:z-50 focus:rounded-md focus:bg-sheet focus:px-4 focus:py-3 focus:font-bold focus:text-ink"
          onClick={() => document.getElementById("work")?.focus()}
        >
          Skip to the work
        </button>
        <header className="no-print flex items-center gap-1 border-b-4 border-amber bg-[#123b4a] px-3 py-1 text-[#fdf8ea] sm:gap-4 sm:px-6">
          <Link to="/" className="flex min-h-11 items-center gap-2 text-xl font-bold tracking-wide">
            <svg viewBox="0 0 32 32" className="size-7" aria-hidden>
              <title>Vessel</title>
              <path d="M3 9h26M3 21q6.5-9 13 0t13 0" stroke="#f4c64e" strokeWidth="3" fill="none" />
            </svg>
            <span className="max-[26rem]:sr-only">Vessel</span>
          </Link>
          <nav aria-label="Main" className="ml-auto flex items-center">
            {[
              ["/", "Jobs"],
              ["/practice", "Practice"],
              ["/kit", "Kit"],
              ["/rules", "Rules"],
            ].map(([to, label]) => (
              <NavLink
                key={label}
                to={to ?? "/"}
                className={({ isActive }) =>
                  `flex min-h-11 items-center px-1.5 font-semibold sm:px-3 ${isActive ? "underline decoration-amber decoration-4 underline-offset-8" : ""}`
                }
              >
                {label}
              </NavLink>
            ))}
          </nav>
          <WhoButton className="hidden sm:flex" />
          <button
            type="button"
            className="flex min-h-11 min-w-11 items-center justify-center gap-2"
            onClick={nextTheme}
            aria-label={`Display: ${THEME_LABEL[theme]}. Change`}
          >
            <Icon aria-hidden /> <span className="hidden sm:inline">{THEME_LABEL[theme]}</span>
          </button>
          <button
            type="button"
            className="hidden min-h-11 min-w-11 items-center justify-center sm:flex"
            onClick={() => setHelp(true)}
            aria-label="Keyboard"
          >
            <Keyboard aria-hidden />
          </button>
        </header>
        <Page />
      </div>
      <Sheet title="Keyboard" open={help} onClose={() => setHelp(false)}>
        <dl className="mb-4 grid grid-cols-[auto_1fr] gap-x-6 gap-y-2">
          {KEYS.map(([key, what]) => (
            <div key={key} className="contents">
              <dt className="font-bold">{key}</dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
        <Button onClick={() => setHelp(false)}>Close</Button>
      </Sheet>
    </Toasts>
  );
}
