import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import { api, Problem, result } from "@/api/client";
import { TextField } from "@/ui/Field";
import { Door } from "./Door";
import { useEnter } from "./session";

export function SignUp() {
  const invitation = useLocation().hash.slice(1) || null;
  const navigate = useNavigate();
  const enter = useEnter();
  const [entry, set] = useState({ name: "", email: "", password: "", workspace: "" });
  const change = (field: keyof typeof entry) => (value: string) => set({ ...entry, [field]: value });
  const signUp = useMutation({
    mutationFn: () =>
      result(
        api.POST("/api/v1/accounts", { body: { ...entry, workspace: entry.workspace || null, invitation } }),
      ),
    onSuccess: (session) => {
      enter(session);
      navigate("/");
    },
  });
  const problem = signUp.error instanceof Problem ? signUp.error : null;
  const errors = problem?.byField ?? {};
  return (
    <Door title={invitation ? "Make an account to join" : "Make an account"}>
      <form
        className="space-y-4"
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          signUp.mutate();
        }}
      >
        <TextField
          label="Your name"
          autoComplete="name"
          value={entry.name}
          onChange={change("name")}
          error={errors.name}
        />
        <TextField
          label="E-mail address"
          type="email"
          autoComplete="username"
          value={entry.email}
          onChange={change("email")}
          error={errors.email}
        />
        <TextField
          label="Password"
          type="password"
          autoComplete="new-password"
          value={entry.password}
          onChange={change("password")}
          error={errors.password}
          hint="10 signs or more; four ordinary words do well."
        />
        {invitation ? null : (
          <TextField
            label="Workspace"
            autoComplete="organization"
            value={entry.workspace}
            onChange={change("workspace")}
            error={errors.workspace}
            hint="What you call the whole of it: a business, a farm, a garden. You can leave it empty."
          />
        )}
        {problem && problem.errors.length === 0 ? (
          <p className="text-error" role="alert">
            {problem.message}
          </p>
        ) : null}
        <button type="submit" className="btn btn-primary press w-full" disabled={signUp.isPending}>
          Make the account
        </button>
      </form>
      <p>
        Have one already?{" "}
        <Link
          className="link link-primary"
          to={invitation ? `/sign-in?next=/join#${invitation}` : "/sign-in"}
        >
          Sign in
        </Link>
      </p>
    </Door>
  );
}
