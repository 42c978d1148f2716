import { useMutation } from "@tanstack/react-query";
import { useChange } from "@/api/change";
import { api } from "@/api/client";
import type { UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/accounts";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { Address, Leave, SignIns } from "./AccountParts";
import { NEW_PASSWORD, OLD_PASSWORD } from "./passwords";
import { useEnter, useSession } from "./session";

const NO_PASSWORDS = { current: "", new: "" };

export function Account() {
  const { data: session } = useSession();
  const enter = useEnter();
  const save = useMutation({
    mutationFn: (body: { name: string; units: UnitSystem | null }) => api.patch("/account", { body }),
    onSuccess: enter,
  });
  const change = useChange((body: { current: string; new: string }) => api.post("/account/password", { body }));
  const person = useFields({
    start: { name: session?.user?.name ?? "", units: (session?.user?.units ?? "") as UnitSystem | "" },
    problem: save.error,
  });
  const secret = useFields({ start: NO_PASSWORDS, problem: change.error });
  return (
    <div className="mx-auto max-w-xl space-y-8 p-4 sm:p-6">
      <h1 className="text-3xl">{t("accountAndUnits")}</h1>
      <Address />
      <form
        className="space-y-4"
        onSubmit={person.onSubmit(({ name, units }) => save.mutate({ name, units: units || null }))}
      >
        <TextField label={t("yourName")} {...person.field("name")} />
        <SelectField
          label={t("showFiguresIn")}
          hint={t("youCanTypeAMeasurementIn")}
          {...person.field("units")}
          options={{ "": t("theUnitsOfEachSite"), metric: t("metricMMMMm"), us: t("usFtSqFtYdIn") }}
        />
        <Button type="submit" primary>
          {t("save")}
        </Button>
        {save.isSuccess ? (
          <span role="status" className="ml-3">
            {t("saved")}
          </span>
        ) : null}
      </form>
      <form
        className="space-y-4 border-t border-base-300 pt-6"
        onSubmit={secret.onSubmit((texts) => change.mutate(texts, { onSuccess: () => secret.clear(NO_PASSWORDS) }))}
      >
        <h2 className="text-xl">{t("changePassword")}</h2>
        <TextField label={t("currentPassword")} {...OLD_PASSWORD} {...secret.field("current")} />
        <TextField
          label={t("newPassword")}
          {...NEW_PASSWORD}
          {...secret.field("new")}
          hint={t("yourOtherDevicesAreSignedOut")}
        />
        <Button type="submit">{t("changePassword")}</Button>
        {change.isSuccess ? (
          <span role="status" className="ml-3">
            {t("passwordChanged")}
          </span>
        ) : null}
      </form>
      <SignIns />
      <Leave />
    </div>
  );
}
