/** Files that the program makes: saved when they came whole, their refusal told where they were asked. */
import { expect, test, vi } from "vitest";
import { asked, begin, hold, lose } from "@/testing/api";
import { find, gone, mount, says, until } from "@/testing/page";
import { Download } from "./Download";

/** What the browser is given to save, by name. */
function saved() {
  const names: string[] = [];
  const plain = HTMLAnchorElement.prototype.click;
  vi.spyOn(HTMLAnchorElement.prototype, "click").mockImplementation(function (
    this: HTMLAnchorElement,
  ) {
    if (this.href.startsWith("blob:")) names.push(this.download);
    else plain.call(this);
  });
  return names;
}

test("a file is saved under the name that its answer gives", async () => {
  await begin("twenty");
  const names = saved();
  const release = hold(/export/);
  const { user } = await mount(<Download href="/api/export?payer=ELV/TRS">Export data</Download>);
  const link = await find("link", "Export data");
  expect(link.getAttribute("href")).toBe("/api/export?payer=ELV/TRS");
  await user.click(link);
  await says("being prepared");
  await user.click(link);
  release();
  await gone("status", /being prepared/);
  await until(() => expect(names).toEqual(["trs-2026-06-30.zip"]));
  expect(asked.filter((a) => a.includes("export"))).toHaveLength(1);
});

test("why it was not made is told beside the link, and asked again it may come", async () => {
  await begin("twenty");
  const names = saved();
  const { user } = await mount(<Download href="/api/decisions/7/memo?save=true">Save</Download>);
  await user.click(await find("link", "Save"));
  await says("No such decision", await find("alert"));
  expect(names).toEqual([]);
});

test("a program that has ended is told as that", async () => {
  await begin("twenty");
  const names = saved();
  lose(/backup/);
  const { user } = await mount(<Download href="/api/backup">Backup</Download>);
  await user.click(await find("link", "Backup"));
  await says("does not answer", await find("alert"));
  lose();
  await user.click(await find("link", "Backup"));
  await gone("alert", /./);
  await until(() => expect(names).toEqual(["hearth-yield-2026-06-30.json"]));
});
