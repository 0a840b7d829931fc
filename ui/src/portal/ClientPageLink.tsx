import { useMutation } from "@tanstack/react-query";
import { api, unwrap } from "../api/client";
import { Button, ErrorMessage } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/portal";

/** The link to a client's own page: sent by the studio's gateway, or shown to be passed on. */
export function ClientPageLink({ client }: { client: string }) {
	const { may } = useSession();
	const make = useMutation({
		mutationFn: (send: boolean) => unwrap(api.POST("/api/clients/{id}/page", { params: { path: { id: client } }, body: { send } })),
	});
	if (!may("new-client-page")) return null;
	return (
		<section aria-label={w.clientPage} className="mt-6">
			<h2 className="mt-0 mb-1 text-2xl">{w.clientPage}</h2>
			<p className="m-0 mb-2 text-sm text-soft">{w.clientPageHint}</p>
			{make.data?.sentTo && <p className="m-0 mb-2 font-semibold text-kelp">{w.pageSent({ to: make.data.sentTo })}</p>}
			{make.data && !make.data.sentTo && (
				<label className="mb-2 block text-sm font-semibold">
					{w.pageShownOnce}
					<input className="field num mt-1 font-normal" readOnly value={make.data.address} onFocus={(e) => e.target.select()} />
				</label>
			)}
			<div className="flex flex-wrap gap-2">
				<Button disabled={make.isPending} onClick={() => make.mutate(true)}>
					{w.sendPage}
				</Button>
				<Button variant="quiet" disabled={make.isPending} onClick={() => make.mutate(false)}>
					{w.showPage}
				</Button>
			</div>
			<ErrorMessage error={make.error} />
		</section>
	);
}
