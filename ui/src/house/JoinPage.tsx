import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import * as z from "zod/mini";
import { api, unwrap } from "../api/client";
import { Input, useServerForm } from "../kit/form";
import { Button, ErrorMessage, Loading } from "../kit/kit";
import * as w from "../words/catalogue/people";

/** Somebody who was invited, or forgot the password, chooses one. */
export function JoinPage() {
	const [token] = useState(() => window.location.hash.slice(1));
	const params = { header: { "X-Link-Token": token } };
	const link = useQuery({ queryKey: ["join"], queryFn: () => unwrap(api.GET("/api/join", { params })), retry: false });
	const [done, setDone] = useState(false);
	if (!link.data && !link.error) return <Loading of={w.thisPage} error={null} />;
	return (
		<main className="mx-auto grid min-h-screen max-w-md content-center gap-4 p-6">
			<p className="m-0 font-serif text-2xl">{w.softPalm}</p>
			{link.data ? (
				<>
					<h1 className="m-0 text-4xl">{link.data.again ? w.chooseANewPassword : w.welcomeToStudio({ studio: link.data.studioName })}</h1>
					{done ? (
						<>
							<p role="status" className="m-0 text-lg">
								{w.yourPasswordIsSaved}
							</p>
							<p>
								<a
									href="/"
									className="inline-flex min-h-11 items-center rounded-sm border border-persimmon bg-persimmon px-4 font-semibold text-white no-underline"
								>
									{w.signIn}
								</a>
							</p>
						</>
					) : (
						<>
							<p className="m-0">{w.youSignInAsEmail({ name: link.data.name, email: link.data.email })}</p>
							<Choose token={token} onDone={() => setDone(true)} />
						</>
					)}
				</>
			) : (
				<ErrorMessage error={link.error} />
			)}
		</main>
	);
}

/** The same length as the server asks, said before it is sent. */
export const newPassword = z.string().check(z.minLength(12, w.atLeast12Characters));

function Choose({ token, onDone }: { token: string; onDone: () => void }) {
	const of = useServerForm({
		schema: z.object({ password: newPassword }),
		start: { password: "" },
		send: (body) => unwrap(api.POST("/api/join", { params: { header: { "X-Link-Token": token } }, body })),
		onSent: onDone,
	});
	return (
		<form className="grid gap-3" onSubmit={of.submit} noValidate>
			<Input of={of} field="password" label={w.newPassword} hint={w.atLeast12Characters} type="password" autoComplete="new-password" />
			<ErrorMessage error={of.error} />
			<Button variant="primary" type="submit" disabled={of.busy}>
				{w.savePassword}
			</Button>
		</form>
	);
}
