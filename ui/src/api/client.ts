import createClient, { type Middleware } from "openapi-fetch";
import * as w from "../words/catalogue/api";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Problem = Schemas["Problem"];

/** Carries a problem of the server to the screen that has to show it. */
export class ProblemError extends Error {
	readonly problem: Problem;
	constructor(problem: Problem) {
		super(problem.detail);
		this.problem = problem;
	}
	/** The message for one field, by its JSON pointer. */
	at(path: string): string | undefined {
		return this.problem.errors?.find((e) => e.path === path)?.message;
	}
}

const unreachable: Problem = {
	type: "about:blank",
	title: w.notReached,
	status: 0,
	code: "not-reached",
	detail: w.serverCannotReachedWhatYouTyped,
};

let csrf = "";
let endSession = () => {};

/** Takes the session's token for everything that changes something, and what to do when the session ends. */
export function setSession(token: string, onEnd: () => void) {
	csrf = token;
	endSession = onEnd;
}

const withToken: Middleware = {
	onRequest({ request }) {
		if (request.method !== "GET" && csrf) request.headers.set("X-CSRF-Token", csrf);
		return request;
	},
	onResponse({ response }) {
		if (response.status === 401 && csrf) endSession();
	},
};

export const api = createClient<paths>({ baseUrl: "", fetch: (r: Request) => globalThis.fetch(r) });
api.use(withToken);

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** Returns the data of an answer, or throws its problem. */
export async function unwrap<T>(answer: Promise<Answer<T>>): Promise<T> {
	let a: Answer<T>;
	try {
		a = await answer;
	} catch (cause) {
		if (cause instanceof DOMException && cause.name === "AbortError") throw cause;
		throw new ProblemError(unreachable);
	}
	if (a.error !== undefined || !a.response.ok) {
		const p = a.error as Partial<Problem> | undefined;
		throw new ProblemError(p && typeof p.detail === "string" ? (p as Problem) : { ...unreachable, status: a.response.status });
	}
	return a.data as T;
}
