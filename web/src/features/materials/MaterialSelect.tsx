import type { ReactNode } from "react";
import { t } from "@/texts/materials";
import { ChoiceBox } from "@/ui/ChoiceBox";
import { useMaterials } from "./materials";

interface Props {
  workspaceId: string;
  label: string;
  value: string;
  change: (key: string) => void;
  /** What choosing nothing means; without it something has to be chosen. */
  empty?: string;
  /** One that cannot be chosen. */
  without?: string | undefined;
  error?: string | undefined;
  hint?: ReactNode;
  aside?: ReactNode;
}

/** A choice of everything on the shelf that can be laid or mixed. */
export function MaterialSelect({ workspaceId, label, value, change, empty, without, ...rest }: Props) {
  const materials = useMaterials(workspaceId);
  const listed = (materials.data ?? [])
    .filter(({ material }) => material.kind !== "sheet" && material.key !== without)
    .map(({ material, own }): [string, string] => [material.key, `${material.name}${own ? ` (${t("own")})` : ""}`]);
  const options: [string, string][] = empty === undefined ? listed : [["", empty], ...listed];
  return <ChoiceBox label={label} value={value} onChange={change} options={options} {...rest} />;
}
