import { useMutation } from "@tanstack/react-query";
import { useUndo } from "@/ui/undo";

/** Something that is sent when it is asked for; what follows from it is asked anew once it is answered, or refused. */
export function useChange<Entry = void, Answer = unknown>(
  send: (entry: Entry) => Promise<Answer>,
  refresh?: () => unknown,
) {
  return useMutation({ mutationFn: send, ...(refresh && { onSettled: refresh }) });
}

interface Removal<Row> {
  remove: (row: Row) => Promise<unknown>;
  restore: (row: Row) => Promise<unknown>;
  refresh: () => Promise<void>;
  sentence: (row: Row) => string;
}

/** Deletes something, says so, and offers to take that back. */
export function useRemoval<Row>({ remove, restore, refresh, sentence }: Removal<Row>) {
  const offerUndo = useUndo();
  const restoration = useChange(restore, refresh);
  return useMutation({
    mutationFn: remove,
    onSuccess: async (_, row) => {
      await refresh();
      offerUndo({ text: sentence(row), undo: () => restoration.mutate(row) });
    },
  });
}
