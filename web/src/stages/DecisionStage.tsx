import { useEffect, useRef } from "react";
import { useForm } from "react-hook-form";
import { isUnsure, Refusal, type Review, type Schemas, type Stage } from "@/api/client";
import { type PayerKey, useDecide, useDecisions, useWithdraw } from "@/api/hooks";
import { useKeptStrains } from "@/api/strains";
import { day, number, readNumber, upperFirst } from "@/format/format";
import { followDrafts, keepDraft, readDraft } from "@/state/drafts";
import { useIntention } from "@/state/intention";
import { questionOf, useView } from "@/state/view";
import { ErrorNote } from "@/ui/ErrorNote";
import { StageSection } from "@/ui/StageSection";
import { Expectations } from "./decision/Expectations";
import { Outlay } from "./decision/Outlay";
import { Past, POINTS, SaidStrains } from "./decision/Past";

const VERDICTS = ["buy", "hold", "wait", "trim", "avoid"] as const;

interface Draft {
  verdict: string;
  words: string;
  buy_below: string;
  trim_above: string;
  pros: string;
  cons: string;
  risks: string;
  next_look: string;
  /** As JSON, as a draft is kept as text. */
  expectations: string;
}
const EMPTY: Draft = {
  verdict: "",
  words: "",
  buy_below: "",
  trim_above: "",
  pros: "",
  cons: "",
  risks: "",
  next_look: "",
  expectations: "[]",
};

export function DecisionStage(props: {
  review: Review;
  worth: Stage;
  payer: PayerKey;
  past: boolean;
}) {
  const [view] = useView();
  const decisions = useDecisions(props.payer, view.as_of);
  return (
    <StageSection
      id="decision"
      title="Decision"
      question="Do I buy, hold, wait, trim or avoid, and at what price?"
    >
      <div className="grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-8 xl:grid-cols-[minmax(0,460px)_minmax(0,1fr)]">
        {props.past ? <OnlyToday /> : <Form {...props} />}
        <div>
          <h3 className="text-[17px]">Decided before</h3>
          {decisions.error && <ErrorNote error={decisions.error} />}
          {decisions.data?.length === 0 && (
            <p className="mt-1 max-w-prose text-muted">
              Nothing yet. A decision keeps a copy of every figure it rests on, and shows next time
              what has changed.
            </p>
          )}
          {decisions.data?.map((d) => (
            <Past key={d.id} decision={d} />
          ))}
        </div>
      </div>
    </StageSection>
  );
}

function OnlyToday() {
  const [, change] = useView();
  return (
    <p className="text-muted">
      You are viewing a past day. A decision is made today, so that it cannot know how it turned
      out.{" "}
      <button type="button" className="link" onClick={() => change({ as_of: undefined })}>
        Go to today
      </button>
    </p>
  );
}

const isDraft = (raw: unknown): raw is Partial<Draft> =>
  typeof raw === "object" &&
  raw !== null &&
  Object.entries(raw).every(([k, v]) => !(k in EMPTY) || typeof v === "string");

/** What was typed is kept on this machine until it is saved: over a reload, and in step with other
 * tabs that show the same payer. */
function useDraft(payer: PayerKey) {
  const key = `decision/${payer.exchange}/${payer.symbol}`;
  const read = () => ({ ...EMPTY, ...readDraft(key, isDraft) });
  const form = useForm<Draft>({ defaultValues: read() });
  const { subscribe, reset } = form;
  useEffect(
    () =>
      subscribe({
        formState: { values: true },
        callback: ({ values }) => keepDraft(key, values),
      }),
    [subscribe, key],
  );
  // biome-ignore lint/correctness/useExhaustiveDependencies: one listener a payer
  useEffect(
    () =>
      followDrafts(() => {
        const kept = read();
        if (JSON.stringify(kept) !== JSON.stringify({ ...EMPTY, ...form.getValues() })) reset(kept);
      }),
    [key],
  );
  const clear = () => {
    reset(EMPTY);
    keepDraft(key, null);
  };
  return { form, clear };
}

const intoView = (told: HTMLElement | null) => told?.scrollIntoView({ block: "nearest" });

/** The price that is being typed, once it is one. */
function typedPrice(text: string): number | undefined {
  const read = text.trim() ? readNumber(text) : null;
  return read && "value" in read && read.value > 0 ? read.value : undefined;
}

function Form({ review, worth, payer }: { review: Review; worth: Stage; payer: PayerKey }) {
  const [view] = useView();
  const { form, clear } = useDraft(payer);
  const decide = useDecide(payer);
  const intentionOf = useIntention();
  const doubted = useRef("");
  const withdraw = useWithdraw();
  const buyBelow = worth.figures.buy_below?.value;
  const { register, handleSubmit, setError, setValue, formState, watch } = form;
  const save = handleSubmit((draft) => {
    const { as_of: _, aim: __, ...question } = questionOf(view);
    const prices: Partial<Record<"buy_below" | "trim_above", string | null>> = {};
    for (const name of ["buy_below", "trim_above"] as const) {
      const typed = draft[name].trim();
      const price = typed ? readNumber(typed) : null;
      if (price && "error" in price) {
        return setError(name, { message: price.error }, { shouldFocus: true });
      }
      prices[name] = price ? String(price.value) : null;
    }
    const body = {
      question,
      as_of: review.as_of,
      verdict: draft.verdict,
      words: draft.words,
      ...prices,
      pros: draft.pros,
      cons: draft.cons,
      risks: draft.risks,
      next_look: draft.next_look || null,
      expectations: expectationsOf(draft),
    };
    const said = JSON.stringify([body.verdict, prices]);
    decide.mutate(
      { ...body, intention: intentionOf(body), ask: doubted.current !== said },
      {
        onSuccess: () => {
          clear();
          intentionOf({});
        },
        onError: (error) => {
          doubted.current = isUnsure(error) ? said : "";
          if (doubted.current) return;
          const field = error instanceof Refusal ? error.problem.field : null;
          if (field && field in EMPTY) {
            setError(field as keyof Draft, { message: error.message }, { shouldFocus: true });
          }
        },
      },
    );
  });
  const { errors } = formState;
  const unsure = isUnsure(decide.error);
  const named = decide.error instanceof Refusal ? decide.error.problem.field : null;
  const besideAField = !unsure && named != null && named in EMPTY;
  return (
    <form onSubmit={save} noValidate className="print:hidden">
      <fieldset>
        <legend className="text-[15px]">Verdict</legend>
        <div className="mt-1 flex flex-wrap gap-2">
          {VERDICTS.map((v) => (
            <label
              key={v}
              className="button flex items-center has-checked:border-action has-checked:bg-action has-checked:text-paper has-focus-visible:outline-2 has-focus-visible:outline-action has-focus-visible:outline-offset-2"
            >
              <input type="radio" value={v} className="sr-only" {...register("verdict")} />
              {v}
            </label>
          ))}
        </div>
        <FieldError message={errors.verdict?.message} />
      </fieldset>
      <label className="mt-4 block text-[15px]" htmlFor="decision-words">
        In your own words
      </label>
      <textarea
        id="decision-words"
        rows={6}
        className="field mt-1 w-full"
        aria-invalid={errors.words ? true : undefined}
        placeholder="Why, and what would change your mind?"
        {...register("words")}
      />
      <FieldError message={errors.words?.message} />
      <label className="mt-4 block text-[15px]" htmlFor="decision-price">
        Buy below, {review.payer.currency} <span className="text-muted">(if you have one)</span>
      </label>
      <div className="mt-1 flex flex-wrap items-center gap-3">
        <input
          id="decision-price"
          inputMode="decimal"
          className="field w-[110px] text-right font-semibold"
          aria-invalid={errors.buy_below ? true : undefined}
          {...register("buy_below")}
        />
        {buyBelow != null && (
          <button
            type="button"
            className="link"
            onClick={() =>
              setValue("buy_below", buyBelow.toFixed(2), {
                shouldDirty: true,
              })
            }
          >
            take {number(buyBelow, 2)} from Worth
          </button>
        )}
      </div>
      <FieldError message={errors.buy_below?.message} />
      <Outlay
        payer={payer}
        currency={review.payer.currency}
        below={typedPrice(watch("buy_below"))}
      />
      <div className="mt-4 flex flex-wrap gap-x-6 gap-y-2 text-[15px]">
        <label>
          Trim above{" "}
          <input
            inputMode="decimal"
            className="field w-[110px] text-right"
            aria-invalid={errors.trim_above ? true : undefined}
            {...register("trim_above")}
          />
        </label>
        <label>
          Next look{" "}
          <input
            type="date"
            className="field"
            min={review.as_of}
            aria-invalid={errors.next_look ? true : undefined}
            {...register("next_look")}
          />
        </label>
      </div>
      <FieldError message={errors.trim_above?.message ?? errors.next_look?.message} />
      <details className="mt-4" open={POINTS.some((p) => watch(p)) || undefined}>
        <summary className="link inline-block text-[15px]">Pros, cons and risks</summary>
        {POINTS.map((name) => (
          <label key={name} className="mt-2 block text-[15px]">
            {upperFirst(name)} <span className="text-muted">(one a line)</span>
            <textarea rows={3} className="field mt-1 block w-full" {...register(name)} />
            <FieldError message={errors[name]?.message} />
          </label>
        ))}
      </details>
      <Expectations
        payer={payer}
        today={review.as_of}
        currency={review.payer.currency}
        expected={expectationsOf({ expectations: watch("expectations") })}
        onChange={(next) => setValue("expectations", JSON.stringify(next), { shouldDirty: true })}
        error={errors.expectations?.message}
      />
      <Strains payer={payer} asOf={review.as_of} />
      <p className="mt-4 text-[14px] text-muted">
        Dated {day(review.as_of)}, with a copy of the figures above.
      </p>
      <div className="mt-2 flex items-center gap-4">
        <button type="submit" className="button primary" disabled={decide.isPending}>
          {unsure ? "Record it as it is" : "Record the decision"}
        </button>
        {(watch("words") || watch("verdict")) && (
          <span className="text-[13px] text-muted">Draft kept on this machine</span>
        )}
      </div>
      {unsure && (
        <p role="alert" className="mt-3 max-w-prose scroll-mb-4 text-[15px]" ref={intoView}>
          {upperFirst(decide.error?.message ?? "")}. Change one of them, or record it as it is.
        </p>
      )}
      {decide.isSuccess && (
        <output className="mt-3 flex gap-4 text-[15px]">
          {withdraw.isSuccess ? "Taken back." : "Recorded."}
          {!withdraw.isSuccess && (
            <button
              type="button"
              className="link"
              onClick={() => withdraw.mutate({ id: decide.data.id, back: false })}
            >
              Undo
            </button>
          )}
        </output>
      )}
      {withdraw.error && (
        <ErrorNote error={withdraw.error} kept="The decision stands as recorded." />
      )}
      {decide.error && !unsure && !besideAField && (
        <ErrorNote error={decide.error} kept="What you typed is still here." />
      )}
    </form>
  );
}

function expectationsOf(draft: Pick<Draft, "expectations">): Schemas["ExpectationIn"][] {
  try {
    const held: unknown = JSON.parse(draft.expectations || "[]");
    return Array.isArray(held) ? (held as Schemas["ExpectationIn"][]) : [];
  } catch {
    return [];
  }
}

/** What the strains kept on the payer say: the decision keeps it too. */
function Strains({ payer, asOf }: { payer: PayerKey; asOf: string }) {
  const kept = useKeptStrains(payer, asOf);
  if (!kept.data?.length) return null;
  return (
    <div className="mt-4">
      <h3 className="text-[15px]">Strains kept on it</h3>
      <SaidStrains strains={kept.data} />
    </div>
  );
}

function FieldError({ message }: { message?: string }) {
  return message ? (
    <p role="alert" className="mt-1 text-[14px] text-outside">
      {upperFirst(message)}.
    </p>
  ) : null;
}
