/** What is typed outlives its page, belongs to what it is for, and breaks none when it is damaged. */
import { act, fireEvent } from "@testing-library/react";
import { afterEach, expect, test, vi } from "vitest";
import { mount, until } from "@/testing/page";
import { isWordsDraft, keepDraft, readDraft, useDraft, type WordsDraft } from "./drafts";

afterEach(() => vi.restoreAllMocks());

function Words({ of }: { of: string }) {
  const [draft, set] = useDraft(of, isWordsDraft);
  return (
    <textarea
      aria-label="words"
      value={draft?.words ?? ""}
      onChange={(e) => set({ begun: "", words: e.target.value })}
    />
  );
}

const typed = () => document.querySelector("textarea")?.value;
const type = (words: string) =>
  fireEvent.change(document.querySelector("textarea") as HTMLTextAreaElement, {
    target: { value: words },
  });

test("a draft belongs to what it is for, in the same place of a page too", async () => {
  const at = await mount(<Words of="a" />);
  type("of a");
  at.give(<Words of="b" />);
  await until(() => expect(typed()).toBe(""));
  type("of b");
  at.give(<Words of="a" />);
  await until(() => expect(typed()).toBe("of a"));
  keepDraft("a", null);
  await until(() => expect(typed()).toBe(""));
  expect(readDraft<WordsDraft>("b", isWordsDraft)?.words).toBe("of b");
});

test("it follows another tab", async () => {
  await mount(<Words of="tabs" />);
  localStorage.setItem("hearth.draft/tabs", JSON.stringify({ begun: "", words: "from there" }));
  act(() => {
    window.dispatchEvent(new StorageEvent("storage", { key: "hearth.draft/tabs" }));
  });
  await until(() => expect(typed()).toBe("from there"));
});

test("a damaged draft is none", async () => {
  for (const text of ["{", "[]", "7", "null", '{"words": 7}', '{"begun": "", "words": null}', ""]) {
    localStorage.setItem("hearth.draft/hurt", text);
    expect(readDraft("hurt", isWordsDraft)).toBeNull();
  }
  await mount(<Words of="hurt" />);
  expect(typed()).toBe("");
  type("anew");
  await until(() => expect(typed()).toBe("anew"));
});

test("where the browser keeps nothing, what is typed stays as long as the page", async () => {
  vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
    throw new DOMException("full", "QuotaExceededError");
  });
  await mount(<Words of="full" />);
  type("still here");
  await until(() => expect(typed()).toBe("still here"));
});
