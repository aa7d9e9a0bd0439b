import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import { BeforePage } from "../features/before/BeforePage";
import { JobsPage } from "../features/jobs/JobsPage";
import { KitPage } from "../features/kit/KitPage";
import { MarkingPage } from "../features/marking/MarkingPage";
import { ProgressPage } from "../features/progress/ProgressPage";
import { RecordPage } from "../features/record/RecordPage";
import { RulesPage } from "../features/rules/RulesPage";
import { SitePage } from "../features/site/SitePage";
import { Broken } from "./Broken";
import { JobPage } from "./JobPage";
import { Shell } from "./Shell";
import "./style.css";

const queries = new QueryClient({
  defaultOptions: { queries: { retry: 1, staleTime: 5_000, refetchOnWindowFocus: false } },
});

const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <Broken />,
    children: [
      { path: "/", element: <JobsPage /> },
      { path: "/jobs/:jobId", element: <JobPage /> },
      { path: "/jobs/:jobId/before", element: <BeforePage /> },
      { path: "/jobs/:jobId/progress", element: <ProgressPage /> },
      { path: "/jobs/:jobId/marking", element: <MarkingPage /> },
      { path: "/jobs/:jobId/site", element: <SitePage mode="work" /> },
      { path: "/jobs/:jobId/site/draw", element: <SitePage mode="draw" /> },
      { path: "/jobs/:jobId/record", element: <RecordPage /> },
      { path: "/jobs/:jobId/lines/:lineId/:step", element: <JobPage /> },
      { path: "/kit", element: <KitPage /> },
      { path: "/rules", element: <RulesPage /> },
      { path: "*", element: <p className="p-6">There is no such page.</p> },
    ],
  },
]);

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
