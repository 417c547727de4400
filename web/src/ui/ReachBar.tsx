const WIDTH = 190;
const POST = 40;
const MOST = 0.5;
const HEIGHT = 18;

/** One scale for all: the post is the target; the bar says how far the price still is from it, to
 * the left once it is beyond. */
export function ReachBar({ distance }: { distance: number | null }) {
  if (distance === null) return null;
  const room = distance > 0 ? WIDTH - POST - 4 : POST - 4;
  const length = Math.min(Math.abs(distance) / (distance > 0 ? MOST : 0.15), 1) * room;
  const cut = Math.abs(distance) > (distance > 0 ? MOST : 0.15);
  return (
    <svg width={WIDTH} height={HEIGHT} aria-hidden="true" className="block">
      <rect
        x={distance > 0 ? POST : POST - length}
        y="5"
        width={Math.max(length, 1)}
        height="8"
        fill={distance > 0 ? "var(--stone)" : "var(--ink)"}
      />
      {cut && (
        <text x={WIDTH - 2} y="13" textAnchor="end" fontSize="12" fill="var(--ink)">
          …
        </text>
      )}
      <line x1={POST} x2={POST} y1="1" y2={HEIGHT - 1} stroke="var(--ink)" strokeWidth="2" />
    </svg>
  );
}
