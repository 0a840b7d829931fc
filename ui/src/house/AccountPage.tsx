import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import * as z from "zod/mini";
import { api, unwrap } from "../api/client";
import { Input, useServerForm } from "../kit/form";
import { Button, ErrorMessage, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import { CalendarAddress } from "../portal/CalendarAddress";
import * as w from "../words/catalogue/people";
import { newPassword } from "./JoinPage";
import { SecondFactor } from "./SecondFactor";

/** One's own password, second factor and sessions. */
export function AccountPage() {
	const { practitioner } = useSession();
	return (
		<Page title={w.yourAccount}>
			<div className="grid gap-x-14 gap-y-10 lg:grid-cols-2">
				<ChangePassword />
				<SecondFactor />
				{practitioner && <CalendarAddress practitioner={practitioner} />}
				<div className="lg:col-span-2">
					<Sessions />
				</div>
			</div>
		</Page>
	);
}

const schema = z.object({ current: z.string().check(z.minLength(1, w.enterYourPassword)), next: newPassword });

function ChangePassword() {
	const [saved, setSaved] = useState(false);
	const cache = useQueryClient();
	const of = useServerForm({
		schema,
		start: { current: "", next: "" },
		send: (body) => unwrap(api.PUT("/api/password", { body })),
		onSent: () => {
			of.form.reset({ current: "", next: "" });
			setSaved(true);
			cache.invalidateQueries({ queryKey: ["sessions"] });
		},
	});
	return (
		<section aria-label={w.password}>
			<h2 className="mt-0 mb-3 text-2xl">{w.password}</h2>
			<form className="grid max-w-sm gap-3" onSubmit={of.submit} onChange={() => setSaved(false)} noValidate>
				<Input of={of} field="current" label={w.currentPassword} type="password" autoComplete="current-password" />
				<Input of={of} field="next" label={w.newPassword} hint={w.atLeast12Characters} type="password" autoComplete="new-password" />
				<ErrorMessage error={of.error} />
				<span className="flex items-center gap-4">
					<Button type="submit" disabled={of.busy}>
						{w.changePassword}
					</Button>
					{saved && <span role="status">{w.yourPasswordIsChanged}</span>}
				</span>
			</form>
		</section>
	);
}

/** The name of a browser, from what it calls itself. */
function browser(agent: string): string {
	const name = ["Firefox", "Edg", "OPR", "Chrome", "Safari"].find((n) => agent.includes(n)) ?? "";
	const on = ["Android", "iPhone", "iPad", "Windows", "Mac OS", "Linux"].find((n) => agent.includes(n)) ?? "";
	const shown: Record<string, string> = { Edg: "Edge", OPR: "Opera" };
	return [shown[name] ?? name, on].filter(Boolean).join(", ") || w.unknownBrowser;
}

function Sessions() {
	const { at } = useSession();
	const cache = useQueryClient();
	const list = useQuery({ queryKey: ["sessions"], queryFn: () => unwrap(api.GET("/api/sessions")) });
	const end = useMutation({
		mutationFn: (id: string) => unwrap(api.POST("/api/sessions/{id}/end", { params: { path: { id } } })),
		onSuccess: () => cache.invalidateQueries({ queryKey: ["sessions"] }),
	});
	if (!list.data) return <Loading of={w.yourSessions} error={list.error} retry={() => list.refetch()} />;
	return (
		<section aria-label={w.whereYouAreSignedIn}>
			<h2 className="mt-0 mb-1 text-2xl">{w.whereYouAreSignedIn}</h2>
			<p className="mt-0 mb-3 text-sm text-soft">{w.aSessionEndsByItself}</p>
			<table className="w-full border-collapse text-left">
				<thead>
					<tr className="border-b border-ink text-sm text-soft">
						<th className="py-1 font-semibold">{w.browser}</th>
						<th className="font-semibold">{w.address}</th>
						<th className="font-semibold">{w.signedInSince}</th>
						<th className="font-semibold">{w.lastUsed}</th>
						<th />
					</tr>
				</thead>
				<tbody>
					{list.data.map((s) => (
						<tr key={s.id} className="border-b border-rule">
							<td className="py-2">{browser(s.agent)}</td>
							<td className="num">{s.address}</td>
							<td className="num">
								{at.date(s.createdAt)}, {at.time(s.createdAt)}
							</td>
							<td className="num">
								{at.date(s.seenAt)}, {at.time(s.seenAt)}
							</td>
							<td className="text-right">{s.here ? w.thisSession : <Button onClick={() => end.mutate(s.id)}>{w.endSession}</Button>}</td>
						</tr>
					))}
				</tbody>
			</table>
			<ErrorMessage error={end.error} />
		</section>
	);
}
