/** Something was saved elsewhere while it was changed here: both are shown, and one is chosen. */
export function Overtaken(props: {
  /** What stands there now. */
  standing: string;
  onKeepMine: () => void;
  onTakeTheirs: () => void;
}) {
  return (
    <div role="alert" className="mt-2 border-close border-l-2 pl-2 text-[14px]">
      <p>
        This was changed elsewhere meanwhile.{" "}
        {props.standing ? (
          <>
            It says now: <q className="whitespace-pre-wrap">{props.standing}</q>
          </>
        ) : (
          "It says nothing now."
        )}
      </p>
      <p className="flex flex-wrap gap-x-4">
        <button type="button" className="link min-h-6" onClick={props.onKeepMine}>
          Save mine in its place
        </button>
        <button type="button" className="link min-h-6" onClick={props.onTakeTheirs}>
          Keep that and drop mine
        </button>
      </p>
    </div>
  );
}
