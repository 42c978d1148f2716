import { t } from "@/texts/log";

interface Props {
  workspaceId: string;
  photo: string;
  words: string;
}

/** A photo, small; pressed, it opens as it is. */
export function PhotoThumb({ workspaceId, photo, words }: Props) {
  const address = `/api/v1/workspaces/${workspaceId}/photos/${photo}`;
  return (
    <a href={address} target="_blank" rel="noreferrer" className="press shrink-0">
      <img
        src={`${address}?small=true`}
        alt={t("photoOf", { words })}
        loading="lazy"
        className="h-12 w-16 object-cover"
      />
    </a>
  );
}
