// The price list: a row a price, a column a setup. What was measured stands; what was not can be typed, and says so.

import type { Price, PriceCell, PriceList, SetupRow } from "@keep-rolling/core/walks";
import { PRICES } from "@keep-rolling/core/walks";
import { useState } from "react";
import { PRICE_WORDS, priceWords, readPrice } from "./priceWords.ts";

interface Props {
  rows: readonly SetupRow[];
  prices: PriceList;
  save: (setupId: string, price: Price, value: number | null) => void;
}

export function PriceTable({ rows, prices, save }: Props) {
  return (
    <div className="overflow-x-auto" role="region" aria-label="Price list" tabIndex={0}>
      <table className="w-full border-collapse text-left">
        <thead className="align-bottom text-sm text-soft">
          <tr>
            <th className="pr-4 font-normal">price</th>
            {rows.map((r) => (
              <th key={r.setup.id} scope="col" className="max-w-40 pr-3 pb-1 font-normal">
                {r.setup.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {PRICES.map((price) => (
            <tr key={price} className="hairline">
              <th scope="row" className="py-1 pr-4 font-normal">
                {PRICE_WORDS[price].name} <span className="text-sm text-soft">{PRICE_WORDS[price].unit}</span>
              </th>
              {rows.map((r) => {
                const cell = prices.get(price)?.get(r.setup.id) ?? { value: null, of: null, from: null };
                return (
                  <td key={r.setup.id} className="num pr-3">
                    {cell.from === "measured" ? (
                      priceWords(price, cell)
                    ) : (
                      <Typed key={cell.value ?? ""} price={price} row={r} cell={cell} save={save} />
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Typed({ price, row, cell, save }: { price: Price; row: SetupRow; cell: PriceCell; save: Props["save"] }) {
  const shown = priceWords(price, cell);
  const [text, setText] = useState(shown);
  const value = readPrice(price, text);
  const keep = (): void => {
    if (value !== undefined && text !== shown && value !== cell.value) save(row.setup.id, price, value);
  };
  return (
    <span className="flex items-center gap-1">
      <input
        aria-label={`${PRICE_WORDS[price].name} of ${row.setup.name}, ${PRICE_WORDS[price].unit}`}
        aria-invalid={value === undefined}
        inputMode="decimal"
        className="w-20 px-1 py-0.5"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => {
          if (e.key === "Enter") keep();
        }}
      />
      {value === undefined ? (
        <span className="text-sm text-alert">a number</span>
      ) : (
        cell.from === "typed" && <span className="text-sm text-soft">typed</span>
      )}
    </span>
  );
}
