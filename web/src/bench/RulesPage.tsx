import { Link } from "@tanstack/react-router";
import { useRef, useState } from "react";
import { useRulesSpeaking, useTables } from "../api/queries";
import { FaultList } from "../parts/FaultList";
import { boxed } from "../parts/Field";
import { ActionKey } from "../shell/ActionKey";
import { useKeys } from "../shell/keys";

const GRAVITY = {
  danger: "someone can be hurt",
  stop: "the work will fail",
  warn: "it may fail",
  note: "worth knowing",
};

/** Every rule of judgement: when it speaks, and what to do instead. */
export function RulesPage() {
  const tables = useTables();
  const speaking = useRulesSpeaking();
  const [words, setWords] = useState("");
  const search = useRef<HTMLInputElement>(null);
  useKeys({ "list.find": () => search.current?.focus() });
  const told = new Map((speaking.data ?? []).map((one) => [one.code, one.words.join(" ")]));
  const said = (code: string) => told.get(code) ?? "";
  const asked = words.toLowerCase().split(/\s+/).filter(Boolean);
  const found = (tables.data?.rules ?? []).filter((rule) => {
    const text = `${rule.code} ${rule.severity} ${rule.when} ${rule.remedy} ${said(rule.code)}`.toLowerCase();
    return asked.every((word) => text.includes(word));
  });
  return (
    <div className="mx-auto max-w-[1160px] px-7 py-5">
      <p className="text-[15px]">
        <Link to="/bench" className="text-accent underline">
          Bench
        </Link>
      </p>
      <header className="mt-1 flex items-center justify-between gap-6">
        <h1 className="text-[26px] font-bold">Rules of judgement</h1>
        <label className="flex w-72 items-center gap-2">
          <span className="sr-only">Find a rule</span>
          <input
            ref={search}
            className={boxed}
            placeholder="Find"
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
          <ActionKey of="list.find" />
        </label>
      </header>
      <FaultList error={tables.error} />
      <ul className="mt-4 border-t border-hair">
        {found.map((rule) => (
          <li key={rule.code} className="grid grid-cols-[220px_1fr_1fr] gap-6 border-b border-hair py-2.5">
            <span>
              <b className="text-[16px] font-semibold">{rule.code.replace(/-/g, " ")}</b>
              <span
                className={`block text-[13px] ${rule.severity === "danger" || rule.severity === "stop" ? "text-alarm" : "text-quiet"}`}
              >
                {rule.severity}: {GRAVITY[rule.severity]}
              </span>
            </span>
            <span className="text-[16px]">
              {rule.when}.
              <span className="mt-1 block text-[15px] text-quiet">
                {said(rule.code) && `“${said(rule.code)}”`}
              </span>
            </span>
            <span className="text-[16px] text-quiet">{rule.remedy}.</span>
          </li>
        ))}
      </ul>
      {tables.isSuccess && found.length === 0 && (
        <p className="py-4 text-quiet">No rule holds these words.</p>
      )}
    </div>
  );
}
