import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Route, Routes } from "react-router";
import { BASE } from "../api/base";
import { fetched } from "../ui/fetched";
import { Shell } from "./Shell";
import { pageOf } from "./stepPages";
import "./style.css";

const JobsPage = fetched(() => import("../features/jobs/JobsPage"));
const JobFrame = fetched(() => import("./JobFrame"));
const JobPage = fetched(() => import("./JobPage"));
const BeforePage = fetched(() => import("../features/before/BeforePage"));
const KitPage = fetched(() => import("../features/kit/KitPage"));
const MarkingPage = fetched(() => import("../features/marking/MarkingPage"));
const PracticePage = fetched(() => import("../features/practice/PracticePage"));
const ProgressPage = fetched(() => import("../features/progress/ProgressPage"));
const RecordPage = fetched(() => import("../features/record/RecordPage"));
const RulesPage = fetched(() => import("../features/rules/RulesPage"));
const YardPage = fetched(() => import("../features/practice/YardPage"));
const SitePage = fetched(() => import("../features/site/SitePage"));

/** Fetch at once what a line is shown with: otherwise the page of its step waits until the job has been read. */
const page = pageOf(/\/jobs\/\d+\/lines\/\d+\/(\w+)$/.exec(location.pathname)?.[1]);
if (page) for (const part of [JobFrame, JobPage, page]) part.ahead();

const queries = new QueryClient({
  defaultOptions: { queries: { retry: 1, staleTime: 5_000, refetchOnWindowFocus: false } },
});

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter basename={BASE || "/"}>
          <Routes>
            <Route element={<Shell />}>
              <Route path="/" element={<JobsPage />} />
              <Route path="/jobs/:jobId" element={<JobFrame />}>
                <Route index element={<JobPage />} />
                <Route path="before" element={<BeforePage />} />
                <Route path="progress" element={<ProgressPage />} />
                <Route path="yard" element={<YardPage />} />
                <Route path="marking" element={<MarkingPage />} />
                <Route path="site" element={<SitePage mode="work" />} />
                <Route path="site/draw" element={<SitePage mode="draw" />} />
                <Route path="site/background" element={<SitePage mode="background" />} />
                <Route path="lines/:lineId/:step" element={<JobPage />} />
              </Route>
              <Route path="/jobs/:jobId/record" element={<RecordPage />} />
              <Route path="/practice" element={<PracticePage />} />
              <Route path="/kit" element={<KitPage />} />
              <Route path="/rules" element={<RulesPage />} />
              <Route path="*" element={<p className="p-6">There is no such page.</p>} />
            </Route>
          </Routes>
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
