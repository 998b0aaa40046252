// Two conditions, or two protocols, side by side in plain words: where they differ, and nothing else.

import { kitApi } from "../../shared/kit/api.ts";
import type { Kit } from "@keep-rolling/contract/kit";
import type { Difference } from "@keep-rolling/core/planning";
import { conditionDifferences, differsIn, protocolDifferences } from "@keep-rolling/core/planning";
import { Link, useSearchParams } from "react-router";
import { sentenceOf } from "../../shared/api/api.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { SelectField } from "../../shared/ui/fields.tsx";
import { Loading, PageHead, Trouble } from "../../shared/ui/parts.tsx";

export function ComparePage() {
  const { data: kit, error, refetch } = kitApi.useKitQuery();
  if (kit === undefined)
    return error === undefined ? <Loading what="the kit" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  return (
    <>
      <PageHead title="Compare" sub="Two results are comparable where their conditions and protocols are the same.">
        <Link to="/kit?of=conditions">Back to the kit</Link>
      </PageHead>
      <div className="max-w-3xl space-y-8">
        <Conditions kit={kit} />
        <Protocols kit={kit} />
      </div>
    </>
  );
}

function usePair<R extends { id: string; archived: boolean }>(
  rows: readonly R[],
  name: string,
): { all: readonly R[]; a: R | undefined; b: R | undefined; choose: (side: "a" | "b", id: string) => void } {
  const [params, setParams] = useSearchParams();
  const all = rows.filter((r) => !r.archived);
  const pick = (side: "a" | "b", otherwise: number): R | undefined =>
    all.find((r) => r.id === params.get(`${name}-${side}`)) ?? all[otherwise];
  const choose = (side: "a" | "b", id: string): void =>
    setParams((p) => {
      const next = new URLSearchParams(p);
      next.set(`${name}-${side}`, id);
      return next;
    });
  return { all, a: pick("a", 0), b: pick("b", 1), choose };
}

function Conditions({ kit }: { kit: Kit }) {
  const { temperature } = useSettings();
  const pair = usePair(kit.conditions, "condition");
  const differences = pair.a === undefined || pair.b === undefined ? [] : conditionDifferences(pair.a, pair.b, temperature);
  return <Pair title="Conditions" pair={pair} differences={differences} />;
}

function Protocols({ kit }: { kit: Kit }) {
  const pair = usePair(kit.protocols, "protocol");
  const differences = pair.a === undefined || pair.b === undefined ? [] : protocolDifferences(pair.a, pair.b);
  return <Pair title="Protocols" pair={pair} differences={differences} />;
}

interface PairProps {
  title: string;
  pair: ReturnType<typeof usePair<{ id: string; name: string; archived: boolean }>>;
  differences: readonly Difference[];
}

function Pair({ title, pair, differences }: PairProps) {
  const options = pair.all.map((r): [string, string] => [r.id, r.name]);
  return (
    <section aria-labelledby={title}>
      <h2 id={title}>{title}</h2>
      <div className="mt-2 grid gap-4 sm:grid-cols-2">
        <SelectField label={`${title}: this one`} options={options} value={pair.a?.id} onChange={(e) => pair.choose("a", e.target.value)} />
        <SelectField
          label={`${title}: with that one`}
          options={options}
          value={pair.b?.id}
          onChange={(e) => pair.choose("b", e.target.value)}
        />
      </div>
      <p className="lead mt-3">{differsIn(differences)}</p>
      {differences.length > 0 && (
        <table className="mt-2 w-full">
          <thead>
            <tr className="text-left text-sm text-soft">
              <th scope="col" className="py-1 pr-4 font-normal">
                Differs in
              </th>
              <th scope="col" className="pr-4 font-normal">
                {pair.a?.name}
              </th>
              <th scope="col" className="font-normal">
                {pair.b?.name}
              </th>
            </tr>
          </thead>
          <tbody>
            {differences.map((d) => (
              <tr key={d.what} className="hairline">
                <th scope="row" className="py-1.5 pr-4 text-left font-normal">
                  {d.what}
                </th>
                <td className="pr-4">{d.a}</td>
                <td>{d.b}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
