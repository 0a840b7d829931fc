import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useFieldArray } from "react-hook-form";
import * as z from "zod/mini";
import { api, type Schemas, unwrap } from "../api/client";
import { sessionQuery } from "../api/session";
import { Input, Lines, Select, Tick, useServerForm } from "../kit/form";
import { Button, ErrorMessage } from "../kit/kit";
import * as w from "../words/catalogue/people";
import { newPassword } from "./JoinPage";
import { TaxFields } from "./TaxFields";
import { usualWeek, WeekField } from "./WeekField";

type Asked = Omit<Schemas["NewStudio"], "$schema" | "rooms" | "shipped"> & {
	rooms: { name: string }[];
	begin: "shipped" | "file" | "none";
};

const here = Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC";
export const timeZones = [...new Set([here, "UTC", ...Intl.supportedValuesOf("timeZone")])];

const schema = z.object({
	name: z.string().check(z.trim(), z.minLength(1, w.enterTheNameOfTheStudio)),
	owner: z.object({
		name: z.string().check(z.trim(), z.minLength(1, w.enterYourName)),
		email: z.string().check(z.trim(), z.minLength(3, w.enterYourEMailAddress)),
		password: newPassword,
		treats: z.boolean(),
	}),
	rooms: z.array(z.object({ name: z.string().check(z.trim(), z.minLength(1, w.enterTheNameOfTheRoom)) })),
	address: z.string(),
	timeZone: z.string(),
	currency: z.string(),
	taxName: z.string(),
	taxRate: z.string(),
	taxMode: z.string(),
	taxNumber: z.string(),
	open: z.any(),
	begin: z.string(),
}) as unknown as z.ZodMiniType<Asked, Asked>;

/** The first page of a studio of one's own: it makes the studio and its owner. */
export function FirstStudioPage() {
	const cache = useQueryClient();
	const go = useNavigate();
	const of = useServerForm({
		schema,
		start: {
			name: "",
			address: "",
			timeZone: here,
			currency: "EUR",
			taxName: "",
			taxRate: "",
			taxMode: "included",
			taxNumber: "",
			open: usualWeek,
			rooms: [{ name: w.room1 }],
			owner: { name: "", email: "", password: "", treats: true },
			begin: "shipped",
		} as Asked,
		send: async ({ rooms, begin, ...v }: Asked) => {
			const body = { ...v, rooms: rooms.map((r) => r.name), shipped: begin === "shipped" };
			await unwrap(api.POST("/api/studio", { body }));
			const session = await unwrap(api.POST("/api/sign-in", { body: { email: v.owner.email, password: v.owner.password } }));
			await go({ to: begin === "file" ? "/import" : "/" });
			return session;
		},
		onSent: (v) => cache.setQueryData(sessionQuery.queryKey, { ...v, skew: new Date(v.now).getTime() - Date.now() }),
	});
	const rooms = useFieldArray({ control: of.form.control, name: "rooms" });
	return (
		<main className="mx-auto max-w-5xl px-6 py-8">
			<p className="m-0 font-serif text-2xl">{w.softPalm}</p>
			<h1 className="mt-2 mb-1 text-4xl">{w.setUpYourStudio}</h1>
			<p className="mt-0 mb-8 max-w-[72ch] text-soft">{w.everythingHereCanBeChangedLater}</p>
			<form className="grid gap-x-12 gap-y-8 lg:grid-cols-2" onSubmit={of.submit} noValidate>
				<section className="grid content-start gap-4" aria-label={w.theStudio}>
					<h2 className="m-0 text-2xl">{w.theStudio}</h2>
					<Input of={of} field="name" label={w.nameOfTheStudio} maxLength={120} />
					<Lines of={of} field="address" label={w.address} hint={w.theAddressIsPrintedOnPapers} maxLength={500} />
					<div className="grid grid-cols-[2fr_1fr] gap-3">
						<Select
							of={of}
							field="timeZone"
							label={w.timeZone}
							options={Object.fromEntries(timeZones.map((z) => [z, z.replaceAll("_", " ")]))}
						/>
						<Input of={of} field="currency" label={w.currency} maxLength={3} className="uppercase" />
					</div>
					<TaxFields of={of} />
					<WeekField of={of} field="open" label={w.openingHours} />
				</section>
				<div className="grid content-start gap-8">
					<section className="grid gap-4" aria-label={w.you}>
						<h2 className="m-0 text-2xl">{w.you}</h2>
						<Input of={of} field="owner.name" label={w.yourName} autoComplete="name" maxLength={120} />
						<Input of={of} field="owner.email" label={w.eMailAddress} type="email" autoComplete="username" maxLength={200} />
						<Input
							of={of}
							field="owner.password"
							label={w.password}
							hint={w.atLeast12Characters}
							type="password"
							autoComplete="new-password"
						/>
						<Tick of={of} field="owner.treats" label={w.iTreatClientsMyself} />
					</section>
					<section className="grid gap-3" aria-label={w.rooms}>
						<h2 className="m-0 text-2xl">{w.rooms}</h2>
						{rooms.fields.map((f, i) => (
							<div key={f.id} className="flex items-end gap-2">
								<div className="flex-1">
									<Input of={of} field={`rooms.${i}.name`} label={w.roomN({ n: i + 1 })} maxLength={120} />
								</div>
								{rooms.fields.length > 1 && <Button onClick={() => rooms.remove(i)}>{w.remove}</Button>}
							</div>
						))}
						<p className="m-0">
							<Button onClick={() => rooms.append({ name: "" })}>{w.addRoom}</Button>
						</p>
					</section>
					<section className="grid gap-2" aria-label={w.productsAndProtocols}>
						<h2 className="m-0 text-2xl">{w.productsAndProtocols}</h2>
						{(
							[
								["shipped", w.beginWithWhatShips],
								["file", w.beginWithAFile],
								["none", w.beginWithNothing],
							] as const
						).map(([v, label]) => (
							<label key={v} className="flex min-h-11 items-center gap-2">
								<input type="radio" className="size-5 shrink-0 accent-persimmon" value={v} {...of.form.register("begin")} />
								{label}
							</label>
						))}
					</section>
				</div>
				<div className="grid justify-items-end gap-3 lg:col-span-2">
					<ErrorMessage error={of.error} />
					<Button variant="primary" type="submit" disabled={of.busy}>
						{w.createStudio}
					</Button>
				</div>
			</form>
		</main>
	);
}
