import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, Problem, result } from "@/api/client";
import type { UnitSystem } from "@/api/schema.gen";
import { FieldFrame, TextField } from "@/ui/Field";
import { Address, Leave, SignIns } from "./AccountParts";
import { useEnter, useSession } from "./session";

const byField = (error: unknown) => (error instanceof Problem ? error.byField : {});

export function Account() {
  const { data: session } = useSession();
  const enter = useEnter();
  const [name, setName] = useState(session?.user?.name ?? "");
  const [units, setUnits] = useState<UnitSystem | "">(session?.user?.units ?? "");
  const [secret, setSecret] = useState({ current: "", new: "" });
  const save = useMutation({
    mutationFn: () => result(api.PATCH("/api/v1/account", { body: { name, units: units || null } })),
    onSuccess: enter,
  });
  const change = useMutation({
    mutationFn: () => result(api.POST("/api/v1/account/password", { body: secret })),
    onSuccess: () => setSecret({ current: "", new: "" }),
  });
  const errors = byField(change.error);
  return (
    <div className="mx-auto max-w-xl space-y-8 p-4 sm:p-6">
      <h1 className="text-3xl">Account and units</h1>
      <Address />
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate();
        }}
      >
        <TextField label="Your name" value={name} onChange={setName} error={byField(save.error).name} />
        <FieldFrame label="Show figures in" hint="A measurement can always be typed in any unit.">
          {({ id, describedBy }) => (
            <select
              id={id}
              aria-describedby={describedBy}
              className="select press w-full"
              value={units}
              onChange={(event) => setUnits(event.target.value as UnitSystem | "")}
            >
              <option value="">the units of each site</option>
              <option value="metric">metric: m, m², m³, mm</option>
              <option value="us">US: ft, sq ft, yd³, in</option>
            </select>
          )}
        </FieldFrame>
        <button type="submit" className="btn btn-primary press">
          Save
        </button>
        {save.isSuccess ? (
          <span role="status" className="ml-3">
            Saved.
          </span>
        ) : null}
      </form>
      <form
        className="space-y-4 border-t border-base-300 pt-6"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate();
        }}
      >
        <h2 className="text-xl">Change the password</h2>
        <TextField
          label="Password until now"
          type="password"
          autoComplete="current-password"
          value={secret.current}
          onChange={(current) => setSecret({ ...secret, current })}
          error={errors.current}
        />
        <TextField
          label="New password"
          type="password"
          autoComplete="new-password"
          value={secret.new}
          onChange={(value) => setSecret({ ...secret, new: value })}
          error={errors.new}
          hint="Other devices are signed out."
        />
        <button type="submit" className="btn press">
          Change it
        </button>
        {change.isSuccess ? (
          <span role="status" className="ml-3">
            Changed.
          </span>
        ) : null}
      </form>
      <SignIns />
      <Leave />
    </div>
  );
}
