import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, Problem, result } from "@/api/client";
import type { UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/accounts";
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
      <h1 className="text-3xl">{t("accountAndUnits")}</h1>
      <Address />
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate();
        }}
      >
        <TextField label={t("yourName")} value={name} onChange={setName} error={byField(save.error).name} />
        <FieldFrame label={t("showFiguresIn")} hint={t("aMeasurementCanAlwaysBeTyped")}>
          {({ id, describedBy }) => (
            <select
              id={id}
              aria-describedby={describedBy}
              className="select press w-full"
              value={units}
              onChange={(event) => setUnits(event.target.value as UnitSystem | "")}
            >
              <option value="">{t("theUnitsOfEachSite")}</option>
              <option value="metric">{t("metricMMMMm")}</option>
              <option value="us">{t("usFtSqFtYdIn")}</option>
            </select>
          )}
        </FieldFrame>
        <button type="submit" className="btn btn-primary press">
          {t("save")}
        </button>
        {save.isSuccess ? (
          <span role="status" className="ml-3">
            {t("saved")}
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
        <h2 className="text-xl">{t("changeThePassword")}</h2>
        <TextField
          label={t("passwordUntilNow")}
          type="password"
          autoComplete="current-password"
          value={secret.current}
          onChange={(current) => setSecret({ ...secret, current })}
          error={errors.current}
        />
        <TextField
          label={t("newPassword")}
          type="password"
          autoComplete="new-password"
          value={secret.new}
          onChange={(value) => setSecret({ ...secret, new: value })}
          error={errors.new}
          hint={t("otherDevicesAreSignedOut")}
        />
        <button type="submit" className="btn press">
          {t("changeIt")}
        </button>
        {change.isSuccess ? (
          <span role="status" className="ml-3">
            {t("changed")}
          </span>
        ) : null}
      </form>
      <SignIns />
      <Leave />
    </div>
  );
}
