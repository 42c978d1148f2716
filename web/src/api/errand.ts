import { apiOfWorkspace, Problem } from "./client";
import type { ErrandOut } from "./schema.gen";

const FIRST_MS = 150;
const SLOWEST_MS = 1_500;

/** What came of something that is done after its request: asked for at growing intervals, its problem thrown. */
export async function finished(
  workspace_id: string,
  asked: Promise<ErrandOut>,
  report?: (errand: ErrandOut) => void,
): Promise<ErrandOut> {
  const workspaceApi = apiOfWorkspace(workspace_id);
  let errand = await asked;
  let pause = FIRST_MS;
  while (errand.state === "waiting" || errand.state === "running") {
    report?.(errand);
    const wait = pause;
    await new Promise((resolve) => setTimeout(resolve, wait));
    pause = Math.min(SLOWEST_MS, pause * 1.5);
    errand = await workspaceApi.get("/errands/{errand_id}", { path: { errand_id: errand.id } });
  }
  if (errand.problem) {
    throw new Problem(errand.problem.status, errand.problem.detail, errand.problem.errors);
  }
  return errand;
}
