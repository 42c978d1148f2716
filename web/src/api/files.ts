import { t } from "@/texts/api";
import { Problem } from "./client";
import { finished } from "./errand";
import type { ErrandOut, Import, LogImport, PhotoOut, ProblemDetails, SiteOut } from "./schema.gen";

/** Sends a file as it is. The generated client knows JSON bodies only. */
async function send<T>(address: string, parameters: Record<string, string>, file: Blob, method = "POST"): Promise<T> {
  const query = new URLSearchParams(parameters);
  let response: Response;
  try {
    const headers = { "Content-Type": "application/octet-stream" };
    response = await fetch(`${address}?${query}`, { method, headers, body: file });
  } catch {
    throw new Problem(0, t("theFileCouldNotBeSent"));
  }
  if (response.status === 204) return undefined as T;
  if (response.ok) return (await response.json()) as T;
  const problem = (await response.json().catch(() => ({}))) as Partial<ProblemDetails>;
  throw new Problem(response.status, problem.detail ?? t("theFileCouldNotBeRead"), problem.errors);
}

/** Has plots read from a file; `report` hears how far that is. */
export function sendPlots(
  workspace: string,
  site: string,
  options: { name: string; import_id: string; use: string; keep: string; columns?: string },
  file: File,
  report?: (errand: ErrandOut) => void,
) {
  const { columns, ...always } = options;
  return finished(
    workspace,
    send<ErrandOut>(
      `/api/v1/workspaces/${workspace}/sites/${site}/imports`,
      columns ? { ...always, columns } : always,
      file,
    ),
    report,
  ).then((errand) => errand.result as Import);
}

export function sendLog(site: string, options: { name: string; keep: string }, file: File) {
  return send<LogImport>(`${site}/log/imports`, options, file);
}

export function sendArchive(workspace: string, site_id: string, file: File) {
  return finished(workspace, send<ErrandOut>(`/api/v1/workspaces/${workspace}/archives`, { site_id }, file)).then(
    (errand) => errand.result as SiteOut,
  );
}

/** Sends a photo of a site, to be named by entries; the same id again keeps it once. */
export async function sendPhotoTo(workspace: string, site: string, file: Blob, id: string = crypto.randomUUID()) {
  await send<PhotoOut>(`/api/v1/workspaces/${workspace}/sites/${site}/photos/${id}`, {}, file, "PUT");
  return id;
}

export function sendPhoto(address: string, file: File) {
  return send<void>(address, {}, file, "PUT");
}

export function sendWeather(address: string, file: File) {
  return send<{ days: number }>(address, {}, file, "PUT");
}
