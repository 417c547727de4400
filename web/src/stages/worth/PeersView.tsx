import { Link } from "@tanstack/react-router";
import { useState } from "react";
import type { Review, Schemas } from "@/api/client";
import { useMakePending } from "@/api/payers";
import { withId, withInput } from "@/api/question";
import { usePeersWorth } from "@/api/trials";
import { number } from "@/format/format";
import { openKey, questionOf, useView, WORTH_PARTS } from "@/state/view";
import { Fig } from "@/ui/Fig";
import { Choice } from "@/ui/StageSection";
import { Drawn } from "../Drawn";

type Peers = Schemas["PeersWorthOut"];
type Multiple = Peers["multiples"][number];
const USUAL = [
  { value: "median", name: "median" },
  { value: "mean", name: "mean" },
];

/** What others pay for the payers of its sector, and what it would be worth at the same. */
export function PeersView({ review }: { review: Review }) {
  const [view] = useView();
  const payer = { exchange: review.payer.exchange, symbol: review.payer.symbol };
  const asked = questionOf(view, WORTH_PARTS);
  const found = usePeersWorth(payer, { ...asked, out: view.peers_out });
  useMakePending(found.data?.pending ?? 0, view.as_of);
  return <Drawn found={found}>{(peers) => <Compared review={review} peers={peers} />}</Drawn>;
}

function Compared({ review, peers }: { review: Review; peers: Peers }) {
  const [usual, setUsual] = useState("median");
  const { currency, name } = review.payer;
  if (peers.peers.length === 0) {
    return (
      <p className="my-6 max-w-prose text-muted">
        {peers.pending > 0
          ? `Updating measures: ${number(peers.pending)} payers are still to come.`
          : peers.sector === null
            ? `No sector of ${name} is on record, so that it has no peers here.`
            : `No other payer of ${peers.sector} and its kind is held.`}
      </p>
    );
  }
  return (
    <>
      <div className="mb-1 flex flex-wrap items-baseline gap-x-6 text-[14px]">
        <span className="text-muted">
          Payers of {peers.sector} and its kind; take out those that do not compare.
        </span>
        <Choice label="What stands for them" options={USUAL} value={usual} onChange={setUsual} />
      </div>
      {peers.pending > 0 && (
        <p className="text-[13px] text-muted">
          Updating measures: {number(peers.pending)} payers are still to come.
        </p>
      )}
      <div className="relative overflow-x-auto">
        <table className="rows w-full text-[14px]">
          <caption className="sr-only">Multiples of its peers</caption>
          <thead>
            <tr className="align-bottom">
              <th scope="col">Price to …</th>
              {peers.multiples.map((m) => (
                <th scope="col" key={m.id}>
                  {m.short}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {peers.peers.map((p) => (
              <Row key={`${p.exchange}/${p.symbol}`} peer={p} multiples={peers.multiples} />
            ))}
          </tbody>
          <tbody className="border-line border-t-2">
            <tr className="font-semibold">
              <th scope="row">{usual === "median" ? "Median" : "Mean"} of those left in</th>
              {peers.multiples.map((m) => (
                <td key={m.id}>{times(usual === "median" ? m.median : m.mean) || few(peers)}</td>
              ))}
            </tr>
            <tr>
              <th scope="row">{name}</th>
              {peers.multiples.map((m) => (
                <td key={m.id}>{m.own && <Fig figure={m.own} digits={1} unknown="–" />}</td>
              ))}
            </tr>
            <tr className="font-semibold">
              <th scope="row">Worth at that, {currency}</th>
              {peers.multiples.map((m) => {
                const price = usual === "median" ? m.at_median : m.at_mean;
                return <td key={m.id}>{price == null ? "–" : number(price, 2)}</td>;
              })}
            </tr>
            <tr>
              <th scope="row">Among the other opinions</th>
              {peers.multiples.map((m) => (
                <td key={m.id}>
                  <Count multiple={m} value={usual === "median" ? m.median : m.mean} />
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      </div>
      <Dropped peers={peers} />
    </>
  );
}

const times = (value: number | null | undefined) => (value == null ? "" : `${number(value, 1)}×`);
const few = (peers: Peers) => `under ${number(peers.least)}`;

function Row({ peer, multiples }: { peer: Peers["peers"][number]; multiples: Multiple[] }) {
  const [view, change] = useView();
  const key = `${peer.exchange}/${peer.symbol}`;
  const kept = !(view.peers_out ?? "").split(",").includes(key);
  const flip = () => change({ peers_out: withId(view.peers_out, key, kept) }, { replace: true });
  return (
    <tr className={kept ? "" : "text-muted"}>
      <th scope="row">
        <span className="flex items-center gap-2">
          <input
            type="checkbox"
            className="size-5 shrink-0 accent-action"
            aria-label={`${peer.name} among the peers`}
            checked={kept}
            onChange={flip}
          />
          <Link
            to="/review/$exchange/$symbol"
            params={{ exchange: peer.exchange, symbol: peer.symbol }}
            search={{ as_of: view.as_of, stage: "worth" } as never}
            className="link"
          >
            {peer.name}
          </Link>
        </span>
      </th>
      {multiples.map((m) => (
        <td key={m.id}>
          {times(peer.multiples[m.id]) ? (
            <button
              type="button"
              className="figure"
              aria-label={`${m.name} of ${peer.name}: ${times(peer.multiples[m.id])}`}
              onClick={() =>
                change({ open: openKey(peer, `range.${m.id}_multiple`), path: undefined })
              }
            >
              {times(peer.multiples[m.id])}
            </button>
          ) : (
            "–"
          )}
        </td>
      ))}
    </tr>
  );
}

/** Takes the multiple over as the person's own, and switches its model on. */
function Count({ multiple, value }: { multiple: Multiple; value: number | null }) {
  const [view, change] = useView();
  const counted = (view.on ?? "").split(",").includes(multiple.input);
  const set = (to: number | undefined) =>
    change({
      inputs: withInput(view.inputs, multiple.input, to),
      on: withId(view.on, multiple.input, to !== undefined),
    });
  if (counted) {
    return (
      <button type="button" className="link" onClick={() => set(undefined)}>
        Leave out<span className="sr-only"> ({multiple.name})</span>
      </button>
    );
  }
  if (value === null || multiple.at_median === null) return "–";
  return (
    <button type="button" className="link" onClick={() => set(Number(value.toFixed(4)))}>
      Take over<span className="sr-only"> ({multiple.name})</span>
    </button>
  );
}

/** Peers that drop out of a multiple, by name. */
function Dropped({ peers }: { peers: Peers }) {
  const held = peers.multiples.filter((m) => m.dropped.length > 0);
  if (held.length === 0) return null;
  return (
    <p className="mt-2 max-w-[80ch] text-[13px] text-muted">
      Without a meaningful figure, and so out:{" "}
      {held.map((m) => `${m.name}: ${m.dropped.join(", ")}`).join("; ")}.
    </p>
  );
}
