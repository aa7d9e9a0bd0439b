import { BASE } from "../api/base";
import { buttonClass } from "../ui/Button";

/** What is shown when the interface itself fails: drafts and everything saved are still there. */
export function Broken() {
  return (
    <div role="alert" className="mx-auto max-w-xl p-8">
      <h1>This page failed</h1>
      <p className="my-3">
        Nothing saved is lost, and what you were typing is kept. Load the page again; if it fails again, go
        back to the jobs.
      </p>
      <div className="flex gap-3">
        <button type="button" className={buttonClass("main")} onClick={() => window.location.reload()}>
          Reload
        </button>
        <a href={`${BASE}/`} className={buttonClass("plain")}>
          Go to jobs
        </a>
      </div>
    </div>
  );
}
