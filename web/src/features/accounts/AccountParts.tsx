import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, Problem, result } from "@/api/client";
import { TextField } from "@/ui/Field";
import { day } from "@/ui/format";
import { MailboxLink } from "./MailboxLink";
import { useSession } from "./session";

/** Whether the address was confirmed; nothing waits for it. */
export function Address() {
  const { data: session } = useSession();
  const ask = useMutation({ mutationFn: () => result(api.POST("/api/v1/account/verification-letter")) });
  const user = session?.user;
  if (!user) return null;
  if (user.demo_until) {
    return (
      <p className="border-l-4 border-accent bg-base-100 p-3">
        This is a demo of your own. It goes on {day(user.demo_until.slice(0, 10))}, with all that you changed.
      </p>
    );
  }
  if (!session.letters) return null;
  if (user.verified_at) return <p>{user.email}, confirmed.</p>;
  return (
    <div className="space-y-2 border-l-4 border-accent bg-base-100 p-3">
      <p>{user.email} is not confirmed yet. Follow the link in the letter we sent there.</p>
      {ask.isSuccess ? (
        <p role="status">Another letter is on its way.</p>
      ) : (
        <button
          type="button"
          className="btn btn-sm press"
          disabled={ask.isPending}
          onClick={() => ask.mutate()}
        >
          Send the letter again
        </button>
      )}
      {ask.error ? (
        <p className="text-error" role="alert">
          {ask.error.message}
        </p>
      ) : null}
      <MailboxLink />
    </div>
  );
}

/** The devices that are signed in. */
export function SignIns() {
  const cache = useQueryClient();
  const list = useQuery({
    queryKey: ["sign-ins"],
    queryFn: () => result(api.GET("/api/v1/account/sign-ins")),
  });
  const end = useMutation({
    mutationFn: (sign_in_id: string) =>
      result(api.DELETE("/api/v1/account/sign-ins/{sign_in_id}", { params: { path: { sign_in_id } } })),
    onSettled: () => cache.invalidateQueries({ queryKey: ["sign-ins"] }),
  });
  return (
    <section className="space-y-2 border-t border-base-300 pt-6">
      <h2 className="text-xl">Where you are signed in</h2>
      <ul className="divide-y divide-base-300 border-y border-base-300" data-testid="sign-ins">
        {(list.data ?? []).map((device) => (
          <li key={device.id} className="flex flex-wrap items-center gap-3 py-2">
            <span className="min-w-0 grow">
              {browserOf(device.device)}
              {device.here ? " (this one)" : ""}
              <span className="block text-sm text-base-content/75">
                since {day(device.started_at.slice(0, 10))}, last seen {day(device.seen_at.slice(0, 10))}
              </span>
            </span>
            {device.here ? null : (
              <button type="button" className="btn btn-sm press" onClick={() => end.mutate(device.id)}>
                Sign out there
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Browser and system as a person would name them. */
export function browserOf(device: string): string {
  const browser = ["Firefox", "Edg", "OPR", "Chrome", "Safari"].find((name) => device.includes(name));
  const system = ["Android", "iPhone", "iPad", "Windows", "Mac OS", "Linux"].find((name) =>
    device.includes(name),
  );
  const named = browser === "Edg" ? "Edge" : browser === "OPR" ? "Opera" : browser;
  if (!named && !system) return "Another program";
  return [named ?? "A browser", system ? `on ${system}` : ""].filter(Boolean).join(" ");
}

/** Deletes the account after a while. */
export function Leave() {
  const navigate = useNavigate();
  const cache = useQueryClient();
  const [password, setPassword] = useState("");
  const leave = useMutation({
    retry: false,
    mutationFn: () => result(api.POST("/api/v1/account/departure", { body: { password } })),
    onSuccess: () => {
      navigate("/sign-in");
      cache.clear();
    },
  });
  const problem = leave.error instanceof Problem ? leave.error : null;
  return (
    <details className="border-t border-base-300 pt-6">
      <summary className="press text-xl">Delete my account</summary>
      <form
        className="mt-3 space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          leave.mutate();
        }}
      >
        <p>
          It is deleted in 14 days, with the workspaces of which nobody else is a member. Sign in before then
          and it stays.
        </p>
        <TextField
          label="Your password"
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={setPassword}
          error={problem?.byField.password ?? problem?.message}
        />
        <button type="submit" className="btn btn-outline btn-error press" disabled={leave.isPending}>
          Delete my account in 14 days
        </button>
      </form>
    </details>
  );
}
