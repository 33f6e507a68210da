import { useState } from "react";
import type { Bench, Form, StockedMetal, Tables } from "../api/types";
import { freshForm, sayForm } from "../document/edit";
import { FormFields } from "../document/FormFields";
import { Button } from "../parts/Button";
import { Choice, NumberField } from "../parts/Field";
import { keyed } from "../parts/keyed";
import { useUnits } from "../parts/useUnits";

const KEPT_AS = [
  ["wire", "wire"],
  ["strip", "strip"],
  ["sheet", "sheet"],
  ["tube", "tube"],
] as const;

export type StockSectionProps = {
  bench: Bench;
  tables: Tables;
  onChange: (what: Partial<Bench>) => void;
};

/** Metal in the drawer, in the form it is kept in, and scrap, each alloy apart. Cut lists draw on both. */
export function StockSection({ bench, tables, onChange }: StockSectionProps) {
  const stock = bench.stock ?? [];
  const units = useUnits();
  const [adding, setAdding] = useState(false);
  const metals = tables.metals.map((metal) => [metal.id, metal.name] as const);
  const name = (id: string) => tables.metals.find((metal) => metal.id === id)?.name ?? id;
  return (
    <section className="mt-7">
      <div className="flex items-center justify-between">
        <h2 className="text-[17px] font-semibold">Metal in the drawer</h2>
        <Button className="!min-h-9" aria-expanded={adding} onClick={() => setAdding(!adding)}>
          {adding ? "Enough" : "Add metal"}
        </Button>
      </div>
      {adding && <AddStock metals={metals} onAdd={(made) => onChange({ stock: [...stock, made] })} />}
      {stock.length === 0 && !adding && (
        <p className="mt-1 text-[15px] text-quiet">
          Nothing is listed: cut lists say only what to buy. Add what lies in the drawer.
        </p>
      )}
      <ul className="mt-2 border-t border-hair text-[15px]">
        {keyed(stock).map(({ key, one: kept, at: n }) => (
          <li key={key} className="flex items-center gap-3 border-b border-hair">
            <span className="figures w-8 text-right">{kept.count}×</span>
            <span className="flex-1">
              <b className="font-semibold">{name(kept.metal)}</b>{" "}
              <span className="text-quiet">{sayForm(kept.form, units)}</span>
            </span>
            <Button
              look="bare"
              className="!min-h-9 px-2 text-[14px]"
              aria-label={`Take out ${name(kept.metal)} ${sayForm(kept.form, units)}`}
              onClick={() => onChange({ stock: stock.filter((_, at) => at !== n) })}
            >
              take out
            </Button>
          </li>
        ))}
      </ul>
      <ScrapLines bench={bench} metals={metals} name={name} onChange={onChange} />
    </section>
  );
}

type AddStockProps = { metals: readonly (readonly [string, string])[]; onAdd: (made: StockedMetal) => void };

function AddStock({ metals, onAdd }: AddStockProps) {
  const [metal, setMetal] = useState("sterling-925");
  const [form, setForm] = useState<Form>(() => freshForm("wire"));
  const [count, setCount] = useState(1);
  return (
    <div className="mt-2 grid grid-cols-3 gap-x-4 gap-y-2 border-l-2 border-hair pl-3">
      <Choice label="Metal kept" value={metal} options={metals} onChoose={setMetal} />
      <Choice
        label="Kept as"
        value={form.kind}
        options={KEPT_AS}
        onChoose={(kind) => setForm(freshForm(kind))}
      />
      <NumberField
        label="How many alike"
        value={count}
        whole
        onCommit={(many) => many > 0 && setCount(many)}
      />
      <FormFields form={form} onChange={setForm} />
      <div className="col-span-3">
        <Button look="main" onClick={() => onAdd({ metal, form, count })}>
          Put it in the drawer
        </Button>
      </div>
    </div>
  );
}

type ScrapLinesProps = {
  bench: Bench;
  metals: readonly (readonly [string, string])[];
  name: (id: string) => string;
  onChange: (what: Partial<Bench>) => void;
};

function ScrapLines({ bench, metals, name, onChange }: ScrapLinesProps) {
  const scrap = bench.scrap ?? [];
  const left = metals.filter(([id]) => !scrap.some((one) => one.metal === id));
  const set = (metal: string, grams: number) =>
    onChange({
      scrap: scrap
        .map((one) => (one.metal === metal ? { metal, mass_g: grams } : one))
        .filter((one) => one.mass_g > 0),
    });
  return (
    <div className="mt-5">
      <h3 className="text-[15px] font-semibold">Scrap, each alloy apart</h3>
      <div className="mt-1 grid grid-cols-3 gap-x-4 gap-y-2">
        {scrap.map((one) => (
          <NumberField
            key={one.metal}
            label={name(one.metal)}
            unit="g"
            value={one.mass_g}
            onCommit={(grams) => set(one.metal, grams)}
          />
        ))}
        <Choice
          label="Another alloy"
          value=""
          options={[["", "choose"], ...left]}
          onChoose={(metal) => metal && onChange({ scrap: [...scrap, { metal, mass_g: 1 }] })}
        />
      </div>
      <p className="mt-1 text-[13px] text-quiet">
        0 takes an alloy out. Scrap is offered to balls and pours of its own metal.
      </p>
    </div>
  );
}
