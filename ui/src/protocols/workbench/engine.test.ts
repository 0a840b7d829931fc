import { expect, test, vi } from "vitest";
import { typingPause } from "../../kit/autosave";
import { type Draft, Engine, type Evaluation, type Protocol, type Save } from "./engine";

// The workbench's engine, with a server that answers when it is told to.

function bench(found?: Draft) {
	const fixes: string[] = [];
	const requests: { draft: Parameters<Save>[0]; answer: (fails?: unknown) => Promise<void> }[] = [];
	const start = { key: "p", name: "start", steps: [{ id: "a", stroke: "x", phase: "work" }] } as unknown as Protocol;
	const evaluated = (name: string) => ({ name }) as unknown as Evaluation;
	const engine = new Engine(
		{ protocol: start, evaluation: evaluated("start"), revision: 0, basedOn: 1, hasDraft: false },
		{
			save: (draft) =>
				new Promise((done, fail) => {
					requests.push({
						draft,
						answer: async (fails) => {
							if (fails) fail(fails);
							else done({ number: draft.revision + 1, sum: draft.protocol.name, evaluation: evaluated(draft.protocol.name) });
							await new Promise((r) => setTimeout(r));
						},
					});
				}),
			fix: async (d) => {
				fixes.push(`${d.revision} ${d.fix} ${d.finding}`);
				return { number: d.revision + 1, protocol: { ...d.protocol, name: "fixed" }, evaluation: evaluated("fixed") };
			},
			evaluate: async (p) => evaluated(p.name),
			staleDraft: (e) => (e as { stale?: never }).stale,
			canRetry: () => false,
			...(found ? { waiting: { find: async () => found, save: async () => {}, drop: async () => {} } } : {}),
		},
	);
	const named = (name: string) => ({ ...engine.view().protocol, name });
	return { engine, requests, fixes, named };
}

test("an edit is one request; edits made meanwhile go together in the next", async () => {
	const { engine, requests, named } = bench();
	engine.edit(named("one"));
	expect(requests).toHaveLength(1);
	engine.edit(named("two"));
	engine.edit(named("three"));
	expect(requests).toHaveLength(1);
	await requests[0]!.answer();
	expect(engine.view().evaluation, "an overtaken answer is not shown").toEqual({ name: "start" });
	expect(requests.map((r) => r.draft.protocol.name)).toEqual(["one", "three"]);
	expect(requests[1]!.draft.revision).toBe(1);
	await requests[1]!.answer();
	expect(engine.view()).toMatchObject({ draftState: "saved", evaluation: { name: "three" }, drafted: true });
	for (const want of ["two", "one", "start"]) {
		engine.undo();
		expect(engine.view().protocol.name).toBe(want);
	}
	expect(engine.view().canUndo).toBe(false);
	engine.redo();
	expect(engine.view().protocol.name).toBe("one");
	engine.edit(named("other"));
	expect(engine.view().canRedo).toBe(false);
});

test("what is typed into a field is one undo step and is sent when typing pauses", async () => {
	const { engine, requests, named } = bench();
	const [field, other] = [{}, {}];
	for (const text of ["o", "oi", "oil"]) engine.edit(named(text), field);
	expect(requests).toHaveLength(0);
	expect(engine.view()).toMatchObject({ draftState: "waiting", protocol: { name: "oil" } });
	await new Promise((r) => setTimeout(r, typingPause + 100));
	expect(requests.map((r) => r.draft.protocol.name)).toEqual(["oil"]);
	await requests[0]!.answer();
	engine.edit(named("oils"), field);
	engine.endTyping(); // the field is left: no need to wait
	expect(requests).toHaveLength(2);
	engine.edit(named("balm"), other);
	engine.undo();
	expect(engine.view().protocol.name).toBe("oils");
	engine.undo();
	expect(engine.view().protocol.name, "all that was typed in one go").toBe("start");
});

test("a draft changed in another window waits for a choice, and nothing is lost", async () => {
	for (const mine of [true, false]) {
		const { engine, requests, named } = bench();
		engine.edit(named("mine"));
		await requests[0]!.answer({ stale: { revision: 7, basedOn: 2, body: named("theirs") } });
		expect(engine.view()).toMatchObject({ draftState: "not saved", protocol: { name: "mine" }, stale: { revision: 7 } });
		engine.edit(named("mine too"));
		expect(requests, "nothing is sent before the choice").toHaveLength(1);
		engine.settle(mine);
		await new Promise((r) => setTimeout(r));
		if (mine) {
			expect(requests[1]!.draft).toMatchObject({ revision: 7, basedOn: 2, protocol: { name: "mine too" } });
		} else {
			expect(requests).toHaveLength(1);
			expect(engine.view()).toMatchObject({
				draftState: "saved",
				protocol: { name: "theirs" },
				evaluation: { name: "theirs" },
				canUndo: false,
			});
		}
	}
});

test("a refused save is told, and the next edit tries again", async () => {
	const { engine, requests, named } = bench();
	engine.edit(named("one"));
	const gone = new Error("refused");
	await requests[0]!.answer(gone);
	expect(engine.view()).toMatchObject({ draftState: "not saved", fault: gone, protocol: { name: "one" } });
	engine.edit(named("two"));
	await requests[1]!.answer();
	expect(engine.view()).toMatchObject({ draftState: "saved", fault: null });
});

test("an edit that a reload found unsaved comes back, is saved and can be undone", async () => {
	const found = { revision: 0, basedOn: 1, protocol: { key: "p", name: "unsaved", steps: [] } as unknown as Protocol };
	const { engine, requests } = bench(found);
	await engine.restore();
	expect(engine.view().protocol.name).toBe("unsaved");
	expect(requests[0]!.draft).toMatchObject({ revision: 0, basedOn: 1 });
	await requests[0]!.answer();
	expect(engine.view()).toMatchObject({ draftState: "saved", canUndo: true });
	engine.undo();
	expect(engine.view().protocol.name).toBe("start");
});

test("an unsaved edit of an older draft is put against the newer one, never over it", async () => {
	const found = { revision: 3, basedOn: 1, protocol: { key: "p", name: "unsaved", steps: [] } as unknown as Protocol };
	const { engine, requests, named } = bench(found);
	await engine.restore();
	expect(requests[0]!.draft.revision, "what the edit was made on").toBe(3);
	await requests[0]!.answer({ stale: { revision: 5, basedOn: 1, body: named("theirs") } });
	expect(engine.view()).toMatchObject({ protocol: { name: "unsaved" }, stale: { revision: 5 } });
});

test("the screen is told a moment after an edit is sent, at once while one types, and before the next press", async () => {
	const { engine, requests, named } = bench();
	let told = 0;
	engine.subscribe(() => told++);
	engine.edit(named("one"));
	expect([requests.length, told, engine.tellsLater()]).toEqual([1, 0, true]);
	engine.tell();
	expect([told, engine.tellsLater()]).toEqual([1, false]);
	await new Promise((r) => setTimeout(r, 5));
	expect(told, "and not a second time").toBe(1);
	await requests[0]!.answer();
	expect(told).toBe(2);
	engine.edit(named("typed"), {});
	expect(told).toBeGreaterThan(2);
	expect(engine.tellsLater()).toBe(false);
});

test("a field that shows its letters itself is drawn first; whoever cannot wait has the screen told", async () => {
	vi.stubGlobal("requestAnimationFrame", (f: () => void) => setTimeout(f, 5));
	const { engine, named } = bench();
	const field = {};
	let told = 0;
	engine.subscribe(() => told++);
	engine.edit(named("o"), field, true);
	expect([told, engine.tellsLater()]).toEqual([0, true]);
	expect(engine.view().protocol.name, "it is known to what saves and undoes").toBe("o");
	await new Promise((r) => setTimeout(r, 30));
	expect([told, engine.tellsLater()]).toEqual([1, false]);
	engine.edit(named("oi"), field, true);
	engine.tell();
	expect([told, engine.tellsLater()]).toEqual([2, false]);
	await new Promise((r) => setTimeout(r, 30));
	expect(told, "and not a second time").toBe(2);
	engine.undo();
	expect(engine.view().protocol.name, "both letters are one step").toBe("start");
});

test("a fix is one request and one undo step, on what is saved", async () => {
	const { engine, requests, fixes, named } = bench();
	engine.edit(named("mine"));
	const fixed = engine.fix({ finding: "glide-thin:a", fix: "add-product" });
	expect(fixes, "the edit is saved first").toHaveLength(0);
	await requests[0]!.answer();
	await fixed;
	expect(fixes).toEqual(["1 add-product glide-thin:a"]);
	expect(engine.view()).toMatchObject({ protocol: { name: "fixed" }, evaluation: { name: "fixed" }, draftState: "saved", drafted: true });
	expect(requests, "nothing is sent again").toHaveLength(1);
	engine.undo();
	expect(engine.view().protocol.name).toBe("mine");
	expect(requests[1]!.draft).toMatchObject({ revision: 2, protocol: { name: "mine" } });
});
