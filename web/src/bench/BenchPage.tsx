import { Link } from "@tanstack/react-router";
import { useBench, useTables } from "../api/queries";
import type { Bench, HouseOverrides } from "../api/types";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { Tip } from "../parts/Tip";
import { bareDegrees, sayDegrees } from "../parts/units";
import { useKeys } from "../shell/keys";
import { AtHand } from "./AtHand";
import { HouseChoices } from "./HouseChoices";
import { PotSection } from "./PotSection";
import { ShelfSection } from "./ShelfSection";
import { StockSection } from "./StockSection";
import { ToolsSection } from "./ToolsSection";
import { UnitsSection } from "./UnitsSection";
import { type BenchEdits, useBenchEdits } from "./useBenchEdits";

/** The bench: what is at hand and which house rules hold, with the tables behind them. */
export function BenchPage() {
  const bench = useBench();
  const tables = useTables();
  const edits = useBenchEdits();
  useKeys({ "edit.undo": edits.undo });
  if (!bench.data || !tables.data)
    return (
      <div className="p-8">
        <FaultList error={bench.error ?? tables.error} />
      </div>
    );
  const { house } = bench.data;
  const stocked = new Set(
    (bench.data.bench.solders ?? []).map((solder) => (typeof solder === "string" ? solder : solder.solder)),
  );
  const named = (what: object) => Object.keys(what).join(", ").replace(/_/g, " ");
  const keep = (what: Partial<Bench>) =>
    edits.apply(named(what), (own) => ({ ...own, bench: { ...own.bench, ...what } }));
  const rule = (what: HouseOverrides) =>
    edits.apply(`house rule: ${named(what)}`, (own) => ({ ...own, house: { ...own.house, ...what } }));
  return (
    <div className="mx-auto max-w-[1160px] px-7 py-5">
      <Head edits={edits} />
      <FaultList error={edits.error} />
      <p className="text-[16px] text-quiet">
        {bench.data.workshop}. A piece may name its own tools and rules.
      </p>
      <AtHand bench={bench.data.bench} onKeep={keep} />
      <div className="mt-6 grid grid-cols-[300px_1fr] gap-10">
        <div className="space-y-6">
          <UnitsSection house={house} onChange={rule} />
          <section>
            <h2 className="text-[17px] font-semibold">House rules</h2>
            <p className="text-[14px] text-quiet">
              Where smiths disagree, the bench chooses; a piece may choose for itself.{" "}
              <Link to="/rules" className="text-accent underline">
                All rules of judgement
              </Link>
            </p>
            <div className="mt-2">
              <HouseChoices house={house} own={bench.data.own_house} follows="as shipped" onChange={rule} />
            </div>
          </section>
        </div>
        <section>
          <ToolsSection tools={bench.data.bench.tools ?? []} onChange={(tools) => keep({ tools })} />
          <PotSection bench={bench.data.bench} onChange={keep} />
          <ShelfSection />
          <StockSection bench={bench.data.bench} tables={tables.data} onChange={keep} />
          <h2 className="mt-8 text-[17px] font-semibold">Solders</h2>
          <Table
            head={["solder", "composition", "soft from", "flows", "at hand"]}
            rows={tables.data.solders.map((solder) => [
              solder.family === "copper" ? solder.name : `${solder.family.toUpperCase()} ${solder.name}`,
              solder.composition,
              sayDegrees(solder.solidus_c, house),
              sayDegrees(solder.flow_c, house),
              stocked.has(solder.id) ? "yes" : "–",
            ])}
          />
          <h2 className="mt-7 text-[17px] font-semibold">Metals</h2>
          <Table
            head={["metal", "composition", "begins to melt", "anneal", "bears"]}
            rows={tables.data.metals.map((metal) => [
              metal.name,
              metal.composition,
              sayDegrees(metal.solidus_c, house),
              `${bareDegrees(metal.anneal_low_c, house)}–${sayDegrees(metal.anneal_high_c, house)}`,
              `${String(metal.max_reduction_pct)} %`,
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

function Head({ edits }: { edits: BenchEdits }) {
  return (
    <div className="flex items-center justify-between">
      <h1 className="text-[26px] font-bold">Bench</h1>
      <Tip words={edits.undoWhat ? `Undo: ${edits.undoWhat}` : ""}>
        <Button look="bare" disabled={!edits.undo} onClick={edits.undo}>
          Undo
        </Button>
      </Tip>
    </div>
  );
}
