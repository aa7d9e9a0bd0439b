import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Route, Routes } from "react-router";
import { BASE } from "../api/base";
import { Shell } from "./Shell";
import "./style.css";

const JobsPage = lazy(() => import("../features/jobs/JobsPage"));
const JobFrame = lazy(() => import("./JobFrame"));
const JobPage = lazy(() => import("./JobPage"));
const BeforePage = lazy(() => import("../features/before/BeforePage"));
const KitPage = lazy(() => import("../features/kit/KitPage"));
const MarkingPage = lazy(() => import("../features/marking/MarkingPage"));
const PracticePage = lazy(() => import("../features/practice/PracticePage"));
const ProgressPage = lazy(() => import("../features/progress/ProgressPage"));
const RecordPage = lazy(() => import("../features/record/RecordPage"));
const RulesPage = lazy(() => import("../features/rules/RulesPage"));
const YardPage = lazy(() => import("../features/practice/YardPage"));
const SitePage = lazy(() => import("../features/site/SitePage"));

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
