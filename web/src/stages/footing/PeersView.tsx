import { useNavigate } from "@tanstack/react-router";

import type { Review, Schemas } from "@/api/client";
import { type PayerKey, usePeers } from "@/api/hooks";
import { useMakePending } from "@/api/payers";
import { PeerStrip } from "@/charts/PeerStrip";
import { useWidth } from "@/charts/useWidth";
import { number, percent, show, upperFirst } from "@/format/format";
import { useView } from "@/state/view";
import { Found } from "./Found";

type Strip = Schemas["Strip"];

/** The payer's place among its sector, measure by measure. */
export function PeersView({ payer }: { review: Review; payer: PayerKey }) {
  const [view] = useView();
  const found = usePeers(payer, { as_of: view.as_of });
  const pending = found.data?.pending ?? 0;
  useMakePending(pending, view.as_of);
  return (
    <Found found={found}>
      {({ sector, strips }) =>
        sector === null ? (
          <p className="my-6 max-w-prose text-muted">No sector is on record for this payer.</p>
        ) : strips.length === 0 ? (
          <p className="my-6 max-w-prose text-muted">
            {pending > 0
              ? "The measures of the other payers are being made."
              : `Fewer than two other payers of ${sector} have a figure to compare.`}
          </p>
        ) : (
          <Strips sector={sector} strips={strips} pending={pending} />
        )
      }
    </Found>
  );
}

/** "Less debt to EBITDA than 60 % of its 14 peers." */
function sentence(strip: Strip): string {
  const peers = `${number(strip.peers, 0)} peers`;
  if (strip.ahead === null) return `its own figure is unknown; ${peers} have one`;
  if (strip.ahead === 1) return `${strip.words} than all of its ${peers}`;
  if (strip.ahead === 0) return `${strip.words} than none of its ${peers}`;
  return `${strip.words} than ${percent(strip.ahead, 0)} of its ${peers}`;
}

function Strips(props: { sector: string; strips: Strip[]; pending: number }) {
  const { sector, strips, pending } = props;
  const [box, width] = useWidth();
  const navigate = useNavigate();
  const [view] = useView();
  const open = (dot: Schemas["Dot"]) => {
    if (dot.mine) return;
    void navigate({
      to: "/review/$exchange/$symbol",
      params: { exchange: dot.exchange, symbol: dot.symbol },
      search: { as_of: view.as_of, footing: "peers", stage: "footing" } as never,
    });
  };
  const strip = Math.max(120, width - 300);
  return (
    <div ref={box}>
      <p className="mb-2 text-[14px] text-muted">
        Payers of {sector}; the large dot is this one, the tick the median.
        {pending > 0 && ` ${number(pending, 0)} payers are still being measured.`}
      </p>
      {width > 0 && (
        <table className="rows w-full text-[14px]">
          <caption className="sr-only">Its place among its sector</caption>
          <thead>
            <tr>
              <th scope="col">Measure</th>
              <th scope="col" className="text-left!">
                Among its sector
              </th>
              <th scope="col">Its own</th>
            </tr>
          </thead>
          <tbody>
            {strips.map((s) => {
              const own = s.dots.find((d) => d.mine);
              return (
                <tr key={s.id}>
                  <td className="w-[220px]">
                    {upperFirst(sentence(s))}
                    {s.beyond.length > 0 && (
                      <span className="block text-[12px] text-muted">
                        without a size: {s.beyond.join(", ")}
                      </span>
                    )}
                  </td>
                  <td className="p-0">
                    <PeerStrip strip={s} width={strip} open={open} />
                  </td>
                  <td className="font-semibold">{own ? show(own.value, s.unit) : "–"}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </div>
  );
}
