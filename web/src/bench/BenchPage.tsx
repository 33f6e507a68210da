import { useBench, useTables } from "../api/queries";
import { FaultList } from "../parts/FaultList";

/** The bench: what is at hand and which house rules hold, with the tables behind them. */
export function BenchPage() {
  const bench = useBench();
  const tables = useTables();
  if (!bench.data || !tables.data)
    return (
      <div className="p-8">
        <FaultList error={bench.error ?? tables.error} />
      </div>
    );
  const { house } = bench.data;
  const named = (list: { id: string; name: string }[], id?: string | null) =>
    list.find((one) => one.id === id)?.name ?? "none";
  const torch = tables.data.torches.find((one) => one.id === bench.data.bench.torch);
  const stocked = new Set(
    (bench.data.bench.solders ?? []).map((one) => (typeof one === "string" ? one : one.solder)),
  );
  const rules: [string, string][] = [
    ["Grades", house.grade_policy],
    ["Solder family", house.family],
    ["Cooling", house.cooling],
    ["Placing", house.placing],
    ["Hollows", house.hollow],
    ["Pot", house.pot],
    ["Neutralise", house.neutralise],
    ["Sign of the anneal", house.anneal_sign],
    ["Overshoot", `${String(house.overshoot_c)} °C`],
    ["Margin", `${String(house.margin_c)} °C`],
    ["Remelt allowance", `${String(house.remelt_allowance_c)} °C`],
  ];
  return (
    <div className="mx-auto max-w-[1160px] px-7 py-5">
      <h1 className="text-[26px] font-bold">Bench</h1>
      <p className="text-[16px] text-quiet">
        {bench.data.workshop}: {torch ? `${torch.name.toLowerCase()}, ${torch.tip} tip` : "no torch"} on{" "}
        {named(tables.data.surfaces, bench.data.bench.surface).toLowerCase()};{" "}
        {named(tables.data.fluxes, bench.data.bench.flux).toLowerCase()};{" "}
        {named(tables.data.pickles, bench.data.bench.pickle).toLowerCase()} in the pot. A piece may name its
        own.
      </p>
      <div className="mt-6 grid grid-cols-[260px_1fr] gap-10">
        <section>
          <h2 className="text-[17px] font-semibold">House rules</h2>
          <dl className="mt-2 border-t border-hair text-[15px]">
            {rules.map(([name, value]) => (
              <div key={name} className="flex justify-between gap-3 border-b border-hair py-1.5">
                <dt className="text-quiet">{name}</dt>
                <dd className="font-semibold">{value.replace(/-/g, " ")}</dd>
              </div>
            ))}
          </dl>
        </section>
        <section>
          <h2 className="text-[17px] font-semibold">Solders</h2>
          <Table
            head={["solder", "composition", "soft from", "flows", "at hand"]}
            rows={tables.data.solders.map((one) => [
              one.family === "copper" ? one.name : `${one.family.toUpperCase()} ${one.name}`,
              one.composition,
              `${String(one.solidus_c)} °C`,
              `${String(one.flow_c)} °C`,
              stocked.has(one.id) ? "yes" : "–",
            ])}
          />
          <h2 className="mt-7 text-[17px] font-semibold">Metals</h2>
          <Table
            head={["metal", "composition", "begins to melt", "anneal", "bears"]}
            rows={tables.data.metals.map((one) => [
              one.name,
              one.composition,
              `${String(one.solidus_c)} °C`,
              `${String(one.anneal_low_c)}–${String(one.anneal_high_c)} °C`,
              `${String(one.max_reduction_pct)} %`,
            ])}
          />
          <p className="mt-4 text-[14px] text-quiet">
            Typical values; a supplier's sheet wins. Alloys with cadmium are never planned.
          </p>
        </section>
      </div>
    </div>
  );
}

function Table({ head, rows }: { head: string[]; rows: string[][] }) {
  return (
    <table className="mt-2 w-full text-left text-[15px]">
      <thead className="text-[13px] text-quiet">
        <tr className="border-y border-hair">
          {head.map((name, n) => (
            <th key={name} className={`py-1 font-normal ${n > 1 ? "text-right" : ""}`}>
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row[0]} className="border-b border-hair">
            {row.map((cell, n) => (
              <td
                key={`${head[n] ?? ""}`}
                className={`py-1.5 ${n === 0 ? "font-semibold" : ""} ${n > 1 ? "figures text-right" : n === 1 ? "text-quiet" : ""}`}
              >
                {cell}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
