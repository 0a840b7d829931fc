import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { Dialog } from "../kit/Dialog";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/clients";

/** A client's own data: handed out as a file, or erased for good. */
export function Privacy({ client }: { client: Schemas["Client"] }) {
	const { may } = useSession();
	const [asking, setAsking] = useState(false);
	const [confirm, setConfirm] = useState("");
	const cache = useQueryClient();
	const go = useNavigate();
	const erase = useMutation({
		mutationFn: () => unwrap(api.POST("/api/clients/{id}/erasure", { params: { path: { id: client.id } }, body: { confirm } })),
		onSuccess: () => {
			cache.clear();
			go({ to: "/people" });
		},
	});
	return (
		<section aria-label={w.clientData} className="mt-8 flex flex-wrap gap-x-6">
			<a
				className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
				href={`/api/clients/${client.id}/export`}
				download
			>
				{w.downloadClientFile}
			</a>
			<a
				className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
				href={`/api/clients/${client.id}/file`}
				target="_blank"
				rel="noreferrer"
			>
				{w.printClientFile}
			</a>
			{may("erase-client") && (
				<Button
					variant="quiet"
					className="px-0!"
					onClick={() => {
						erase.reset();
						setConfirm("");
						setAsking(true);
					}}
				>
					{w.deleteClientData}
				</Button>
			)}
			<Dialog open={asking} onClose={() => setAsking(false)} title={w.deleteAllDataOfClient({ client: client.name })}>
				<p className="mt-0">{w.nameContactDetailsSkinConsultationsPre}</p>
				<Field label={w.typeTheClientsNameToConfirm} fault={erase.error instanceof ProblemError ? erase.error.at("/confirm") : undefined}>
					{(a) => <input {...a} className="field" value={confirm} onChange={(e) => setConfirm(e.target.value)} />}
				</Field>
				<ErrorMessage error={erase.error} />
				<div className="mt-4 flex justify-end gap-3">
					<Button onClick={() => setAsking(false)}>{w.keepClient}</Button>
					<Button variant="primary" disabled={confirm !== client.name || erase.isPending} onClick={() => erase.mutate()}>
						{w.deletePermanently}
					</Button>
				</div>
			</Dialog>
		</section>
	);
}
