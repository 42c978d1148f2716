import { useQuery } from "@tanstack/react-query";
import { api, result } from "@/api/client";
import { useSession } from "@/features/accounts/session";
import { shown } from "@/ui/format";
import { Loading, Trouble } from "@/ui/states";
import { rangeOf, Sourced } from "@/ui/working";

/** Every number the computation brings along, with its range and what it rests on. */
export function Parameters() {
  const { data: session } = useSession();
  const units = session?.user?.units ?? "metric";
  const parameters = useQuery({
    queryKey: ["parameters"],
    queryFn: () => result(api.GET("/api/v1/parameters")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (parameters.isPending) return <Loading what="the sources" />;
  if (parameters.isError) return <Trouble error={parameters.error} retry={() => parameters.refetch()} />;
  return (
    <div className="mx-auto max-w-3xl space-y-4 p-4 sm:p-6">
      <h1 className="text-3xl">Where the numbers come from</h1>
      <p>
        <strong>Published</strong> has its source named. <strong>From memory</strong> names one that was not
        looked up again. <strong>Common practice</strong> is what the trade does, without a published source.
      </p>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {parameters.data.map((parameter) => (
          <li key={parameter.key} className="grid gap-x-4 py-3 sm:grid-cols-[1fr_auto]">
            <span className="font-semibold">{parameter.name}</span>
            <span className="sm:text-right">
              {shown(parameter.value, parameter.unit, units)}
              {rangeOf(parameter, units) ? (
                <span className="text-base-content/70"> ({rangeOf(parameter, units)})</span>
              ) : null}
            </span>
            <Sourced figure={parameter} />
          </li>
        ))}
      </ul>
    </div>
  );
}
