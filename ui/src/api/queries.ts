import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "./client";

export const libraryQuery = queryOptions({
	queryKey: ["library"],
	queryFn: () => unwrap(api.GET("/api/library")),
	staleTime: 60_000,
});

/** The zones of the body: all that a face needs of the library. */
export const zonesQuery = queryOptions({
	queryKey: ["library", "zones"],
	queryFn: () => unwrap(api.GET("/api/zones")),
	staleTime: 60_000,
});

export const dayQuery = (date: string) =>
	queryOptions({
		queryKey: ["day", date],
		queryFn: () => unwrap(api.GET("/api/day", { params: { query: { date } } })),
		refetchInterval: 20_000,
	});

export const clientsQuery = (search: string) =>
	queryOptions({ queryKey: ["clients", search], queryFn: () => unwrap(api.GET("/api/clients", { params: { query: { search } } })) });

export const clientQuery = (id: string) =>
	queryOptions({ queryKey: ["client", id], queryFn: () => unwrap(api.GET("/api/clients/{id}", { params: { path: { id } } })) });

// The sections of a client's file: each is asked for when it is looked at.

export const clientConsentsQuery = (client: string) =>
	queryOptions({
		queryKey: ["client", client, "consents"],
		queryFn: () => unwrap(api.GET("/api/clients/{id}/consents", { params: { path: { id: client } } })),
	});

export const clientLettersQuery = (client: string) =>
	queryOptions({
		queryKey: ["client", client, "letters"],
		queryFn: () => unwrap(api.GET("/api/clients/{id}/letters", { params: { path: { id: client } } })),
	});

export const patchTestsQuery = (client: string) =>
	queryOptions({
		queryKey: ["client", client, "patch tests"],
		queryFn: () => unwrap(api.GET("/api/clients/{id}/patch-tests", { params: { path: { id: client } } })),
	});

export const cautionHistoryQuery = (client: string) =>
	queryOptions({
		queryKey: ["client", client, "cautions"],
		queryFn: () => unwrap(api.GET("/api/clients/{id}/caution-history", { params: { path: { id: client } } })),
	});

/** The pre-treatment checks of a client, newest first, a page at a time. */
export const preChecksQuery = (client: string) =>
	infiniteQueryOptions({
		queryKey: ["client", client, "checks"],
		queryFn: ({ pageParam: after }) =>
			unwrap(api.GET("/api/clients/{id}/pre-checks", { params: { path: { id: client }, query: after ? { after } : {} } })),
		initialPageParam: "",
		getNextPageParam: (page) => page.more,
	});

/** The appointments of a client that are older than one, newest first, a page at a time. */
export const clientVisitsQuery = (client: string, olderThan: string) =>
	infiniteQueryOptions({
		queryKey: ["client", client, "visits", olderThan],
		queryFn: ({ pageParam: after }) => unwrap(api.GET("/api/clients/{id}/visits", { params: { path: { id: client }, query: { after } } })),
		initialPageParam: olderThan,
		getNextPageParam: (page) => page.more,
	});

export const rulesViewQuery = queryOptions({
	queryKey: ["rules"],
	queryFn: () => unwrap(api.GET("/api/rules")),
	staleTime: 60_000,
});

/** The rules in force. */
export const rulesQuery = queryOptions({ ...rulesViewQuery, select: (v) => v.pack });

export const protocolsQuery = queryOptions({ queryKey: ["protocols"], queryFn: () => unwrap(api.GET("/api/protocols")) });

/** How the hands travel in each protocol, and what it lacks today. */
export const menuQuery = queryOptions({ queryKey: ["protocols", "menu"], queryFn: () => unwrap(api.GET("/api/menu")) });

const askProtocol = (id: string) => unwrap(api.GET("/api/protocols/{id}", { params: { path: { id } } }));

let coming: { id: string; until: number; answer: ReturnType<typeof askProtocol> } | undefined;

/** Asks for a protocol while its page is still being fetched; the page takes the answer, once and within some seconds. */
export function expectProtocol(id: string) {
	coming = { id, until: performance.now() + 5_000, answer: askProtocol(id) };
	coming.answer.catch(() => {}); // told to who takes it
}

export const protocolQuery = (id: string) =>
	queryOptions({
		queryKey: ["protocol", id],
		queryFn: () => {
			const ahead = coming;
			coming = undefined;
			return ahead?.id === id && performance.now() < ahead.until ? ahead.answer : askProtocol(id);
		},
		gcTime: 0,
		staleTime: Number.POSITIVE_INFINITY,
	});

/** What to ask a client today. */
export const questionsQuery = (id: string) =>
	queryOptions({
		queryKey: ["questions", id],
		queryFn: () => unwrap(api.GET("/api/clients/{id}/questions", { params: { path: { id } } })),
	});

export const visitQuery = (id: string) =>
	queryOptions({ queryKey: ["visit", id], queryFn: () => unwrap(api.GET("/api/visits/{id}", { params: { path: { id } } })) });

export const consentTextsQuery = queryOptions({
	queryKey: ["consent texts"],
	queryFn: () => unwrap(api.GET("/api/consents/texts")),
	staleTime: Number.POSITIVE_INFINITY,
});

export type Wanted = Omit<Schemas["PlanOptions"], "$schema">;

/** The plan of a visit for today, as if some of it were overridden. */
export const planQuery = (id: string, want: Wanted) =>
	queryOptions({
		queryKey: ["plan", id, want],
		queryFn: () => unwrap(api.POST("/api/visits/{id}/plan", { params: { path: { id } }, body: want })),
		placeholderData: (old) => old,
		retry: false,
	});

/** What a visit needs a patch test of, and when that could be. */
export const patchOfferQuery = (id: string) =>
	queryOptions({
		queryKey: ["patch offer", id],
		queryFn: () => unwrap(api.GET("/api/visits/{id}/patch-test", { params: { path: { id } } })),
	});

export const roomQuery = (id: string) =>
	queryOptions({
		queryKey: ["room", id],
		queryFn: () => unwrap(api.GET("/api/visits/{id}/room", { params: { path: { id } } })),
		gcTime: 0,
		staleTime: Number.POSITIVE_INFINITY,
	});

/** The re-fits of a treatment under way, for every spell's end. */
export const refitsQuery = (id: string) =>
	queryOptions({
		queryKey: ["room", id, "refits"],
		queryFn: () => unwrap(api.GET("/api/visits/{id}/refits", { params: { path: { id } } })),
		staleTime: Number.POSITIVE_INFINITY,
	});

export const progressQuery = (client: string) =>
	queryOptions({
		queryKey: ["progress", client],
		queryFn: () => unwrap(api.GET("/api/clients/{id}/progress", { params: { path: { id: client } } })),
	});

export const photosQuery = (client: string) =>
	queryOptions({
		queryKey: ["photos", client],
		queryFn: () => unwrap(api.GET("/api/clients/{id}/photos", { params: { path: { id: client } } })),
	});

export const reactionsQuery = (client: string) =>
	queryOptions({
		queryKey: ["reactions", client],
		queryFn: () => unwrap(api.GET("/api/clients/{id}/reactions", { params: { path: { id: client } } })),
	});

export const recordQuery = (id: string) =>
	queryOptions({
		queryKey: ["record", id],
		queryFn: () => unwrap(api.GET("/api/visits/{id}/record", { params: { path: { id } } })),
		staleTime: 0,
		gcTime: 0,
	});

export type FreeTimesOf = { protocol: string; client: string; practitioner: string; from: string; days: number; moved: string };

export const freeTimesQuery = (q: FreeTimesOf) =>
	queryOptions({ queryKey: ["free", q], queryFn: () => unwrap(api.GET("/api/free-times", { params: { query: q } })), staleTime: 5_000 });

export const shelfQuery = queryOptions({ queryKey: ["shelf"], queryFn: () => unwrap(api.GET("/api/shelf")) });

/** Use against plan, and what the stock is worth. */
export const shelfFiguresQuery = queryOptions({ queryKey: ["shelf", "figures"], queryFn: () => unwrap(api.GET("/api/shelf/figures")) });

/** What to order today, by supplier. */
export const orderListsQuery = queryOptions({ queryKey: ["order-lists"], queryFn: () => unwrap(api.GET("/api/order-lists")) });

export const goingOffQuery = queryOptions({ queryKey: ["going-off"], queryFn: () => unwrap(api.GET("/api/going-off")) });

export const ordersQuery = queryOptions({
	queryKey: ["orders"],
	queryFn: () => unwrap(api.GET("/api/orders", { params: { query: {} } })),
});

/** The open stocktake, or the last one closed. */
export const countQuery = queryOptions({
	queryKey: ["stocktake"],
	queryFn: () => unwrap(api.GET("/api/stocktake")),
	retry: false,
});

export const recallsQuery = queryOptions({ queryKey: ["recalls"], queryFn: () => unwrap(api.GET("/api/recalls")) });

export const recallQuery = (id: string) =>
	queryOptions({ queryKey: ["recalls", id], queryFn: () => unwrap(api.GET("/api/recalls/{id}", { params: { path: { id } } })) });

export const recipesQuery = queryOptions({ queryKey: ["recipes"], queryFn: () => unwrap(api.GET("/api/recipes")) });

/** What is clean, and what is not. */
export const toolRoomQuery = queryOptions({
	queryKey: ["tool-room"],
	queryFn: () => unwrap(api.GET("/api/tool-room")),
	refetchInterval: 30_000,
});

export const dayListsQuery = queryOptions({ queryKey: ["day-lists"], queryFn: () => unwrap(api.GET("/api/day-lists")) });

export const batchesQuery = queryOptions({ queryKey: ["batches"], queryFn: () => unwrap(api.GET("/api/batches")) });

/** A protocol's published versions, newest first. */
export const versionsQuery = (id: string) =>
	queryOptions({
		queryKey: ["versions", id],
		queryFn: () => unwrap(api.GET("/api/protocols/{id}/versions", { params: { path: { id } } })),
	});

/** What to know of a client before the next treatment, or before the one of an appointment. */
export const briefQuery = (client: string, visit = "") =>
	queryOptions({
		queryKey: ["client", client, "brief", visit],
		queryFn: () => unwrap(api.GET("/api/clients/{id}/brief", { params: { path: { id: client }, query: { visit } } })),
	});

/** What waits for somebody at the studio. */
export const inboxQuery = queryOptions({
	queryKey: ["inbox"],
	queryFn: () => unwrap(api.GET("/api/inbox")),
	refetchInterval: 20_000,
});

/** What to get ready for today's treatments, of one practitioner or of all. */
export const preparationQuery = (practitioner: string) =>
	queryOptions({
		queryKey: ["preparation", practitioner],
		queryFn: () => unwrap(api.GET("/api/day/preparation", { params: { query: { practitioner } } })),
		refetchInterval: 60_000,
	});

/** A series with its visits. */
export const seriesQuery = (id: string) =>
	queryOptions({ queryKey: ["series", id], queryFn: () => unwrap(api.GET("/api/series/{id}", { params: { path: { id } } })) });

/** What there is to pay for an appointment. */
export const visitSaleQuery = (id: string) =>
	queryOptions({
		queryKey: ["visit-sale", id],
		queryFn: () => unwrap(api.GET("/api/visits/{id}/sale", { params: { path: { id } } })),
		staleTime: Number.POSITIVE_INFINITY, // what is typed on the page is not thrown away
		gcTime: 0,
	});

export const priceListQuery = queryOptions({ queryKey: ["price-list"], queryFn: () => unwrap(api.GET("/api/price-list")) });

/** How far a sale has come; the terminal is asked each time. */
export const saleQuery = (id: string) =>
	queryOptions({ queryKey: ["sale", id], queryFn: () => unwrap(api.GET("/api/sales/{id}", { params: { path: { id } } })) });

/** A client's series paid ahead. */
export const soldSeriesQuery = (client: string) =>
	queryOptions({
		queryKey: ["sold-series", client],
		queryFn: () => unwrap(api.GET("/api/clients/{id}/sold-series", { params: { path: { id: client } } })),
	});

export const terminalQuery = queryOptions({
	queryKey: ["terminal"],
	queryFn: () => unwrap(api.GET("/api/card-terminal")),
	refetchInterval: 1000,
});

export const closingDayQuery = queryOptions({ queryKey: ["closing-day"], queryFn: () => unwrap(api.GET("/api/closing-day")) });

/** Receipts of some days, newest first, a page at a time. */
export const receiptsQuery = (from: string, to: string) =>
	infiniteQueryOptions({
		queryKey: ["receipts", from, to],
		queryFn: ({ pageParam: before }) => unwrap(api.GET("/api/receipts", { params: { query: { from, to, before } } })),
		initialPageParam: "",
		getNextPageParam: (page) => (page.length < 100 ? undefined : page.at(-1)?.number),
	});

export const receiptQuery = (id: string) =>
	queryOptions({ queryKey: ["receipts", "one", id], queryFn: () => unwrap(api.GET("/api/receipts/{id}", { params: { path: { id } } })) });

export const vouchersQuery = queryOptions({ queryKey: ["vouchers"], queryFn: () => unwrap(api.GET("/api/vouchers")) });

/** How the appointments of a day were paid, those alone that were. */
export const paidVisitsQuery = (day: string) =>
	queryOptions({ queryKey: ["day", "paid", day], queryFn: () => unwrap(api.GET("/api/paid-visits", { params: { query: { day } } })) });

/** The owner's questions about a week. */
export const booksQuery = (day: string) =>
	queryOptions({ queryKey: ["books", day], queryFn: () => unwrap(api.GET("/api/books", { params: { query: { day } } })) });

export const monthQuery = (month: string) =>
	queryOptions({ queryKey: ["month", month], queryFn: () => unwrap(api.GET("/api/months/{month}", { params: { path: { month } } })) });

export const movedMoneyQuery = queryOptions({ queryKey: ["moved-money"], queryFn: () => unwrap(api.GET("/api/money")) });

export const tipsQuery = queryOptions({ queryKey: ["tips"], queryFn: () => unwrap(api.GET("/api/tips")) });

/** What the treatments of a protocol left. */
export const earnedQuery = (protocol: string, day: string) =>
	queryOptions({
		queryKey: ["books", "earned", protocol, day],
		queryFn: () => unwrap(api.GET("/api/earned", { params: { query: { protocol, day } } })),
	});
