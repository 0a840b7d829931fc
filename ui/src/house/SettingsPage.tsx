import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import { useFieldArray } from "react-hook-form";
import { api, type Schemas, unwrap } from "../api/client";
import { sessionQuery } from "../api/session";
import { Changed } from "../kit/Changed";
import { Input, Lines, Select, type ServerForm, Tick, useServerForm } from "../kit/form";
import { dayWords } from "../kit/format";
import { Button, ErrorMessage, Loading, Page } from "../kit/kit";
import * as w from "../words/catalogue/people";
import { BookFields, bookLabels, bookNumbers } from "./BookFields";
import { CostFields, costLabels } from "./CostFields";
import { DiaryRules, diaryLabels, diaryNumbers } from "./DiaryRules";
import { timeZones } from "./FirstStudioPage";
import { MessageGateway } from "./MessageGateway";
import { TaxFields } from "./TaxFields";
import { WeekField } from "./WeekField";

/** What an owner decides about the studio. */
export function SettingsPage() {
	const settings = useQuery({ queryKey: ["settings"], queryFn: () => unwrap(api.GET("/api/settings")) });
	if (!settings.data) return <Loading of={w.theSettings} error={settings.error} retry={() => settings.refetch()} />;
	return (
		<Page title={w.settings}>
			<Form key={settings.data.revision} start={settings.data} />
		</Page>
	);
}

const labels = {
	name: w.nameOfTheStudio,
	address: w.address,
	timeZone: w.timeZone,
	currency: w.currency,
	taxName: w.nameOfTheTax,
	taxRate: w.rateInPerCent,
	taxMode: w.pricesAndTheTax,
	taxNumber: w.taxNumber,
	ownersNeedFactor: w.ownersNeedASecondFactor,
	emergency: w.inAnEmergency,
	policies: w.policiesForClients,
	consentTreatment: w.consentToTreatment,
	consentPhotos: w.consentToPhotos,
	consentMouth: w.consentToMouth,
	typedSignatures: w.clientsMaySignByTyping,
	keepYears: w.yearsAfterTheLastAppointment,
	keepMinorsTo: w.ageForThoseUnder18,
	gateway: w.howMessagesAreSent,
	mailServer: w.mailServer,
	mailPort: w.port,
	mailSecurity: w.encryption,
	mailUser: w.userName,
	mailFrom: w.messagesComeFrom,
	...diaryLabels,
	...costLabels,
	...bookLabels,
};

const numbers = (v: Schemas["SettingsView"]) => ({
	keepYears: Number(v.keepYears),
	keepMinorsTo: Number(v.keepMinorsTo),
	mailPort: Number(v.mailPort),
	...diaryNumbers(v),
	...bookNumbers(v),
});

function Form({ start }: { start: Schemas["SettingsView"] }) {
	const cache = useQueryClient();
	const [saved, setSaved] = useState(false);
	const [shown, setShown] = useState(start);
	const of = useServerForm({
		start,
		send: (v: Schemas["SettingsView"]) => unwrap(api.PUT("/api/settings", { body: { ...v, ...numbers(v) } })),
		onSent: (v) => {
			setSaved(true);
			setShown(v);
			of.form.reset(v);
			cache.invalidateQueries({ queryKey: sessionQuery.queryKey });
		},
	});
	const closures = useFieldArray({ control: of.form.control, name: "closures" });
	const theirs = of.changed?.settings;
	useEffect(() => {
		if (theirs) of.form.setValue("revision", theirs.revision); // the next save is made to it
	}, [theirs, of.form]);
	return (
		<form className="grid max-w-5xl gap-x-12 gap-y-6 lg:grid-cols-2" onSubmit={of.submit} onChange={() => setSaved(false)} noValidate>
			<div className="grid content-start gap-4">
				<Input of={of} field="name" label={w.nameOfTheStudio} hint={w.theNameIsOnEveryPage} maxLength={120} />
				<Lines of={of} field="address" label={w.address} hint={w.theAddressIsPrintedOnPapers} maxLength={500} />
				<Select
					of={of}
					field="timeZone"
					label={w.timeZone}
					hint={w.theTimeZoneDecidesToday}
					options={Object.fromEntries([...new Set([start.timeZone, ...timeZones])].map((z) => [z, z.replaceAll("_", " ")]))}
				/>
				<Input of={of} field="currency" label={w.currency} hint={w.costsAreShownInThisCurrency} maxLength={3} className="w-28 uppercase" />
				<TaxFields of={of} />
				<CostFields of={of} />
			</div>
			<div className="grid content-start gap-6">
				<div>
					<WeekField of={of} field="open" label={w.openingHours} />
					<p className="mt-1 mb-0 text-sm text-soft">{w.clientsCanBeBookedInTheseHours}</p>
				</div>
				<fieldset className="m-0 grid gap-2 border-0 p-0">
					<legend className="mb-1 text-sm font-semibold">{w.closures}</legend>
					{closures.fields.map((f, i) => (
						<div key={f.id} className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
							<Input of={of} field={`closures.${i}.from`} label={w.firstDay} type="date" />
							<Input of={of} field={`closures.${i}.to`} label={w.lastDay} type="date" />
							<Button onClick={() => closures.remove(i)}>{w.remove}</Button>
							<div className="col-span-3">
								<Input of={of} field={`closures.${i}.reason`} label={w.reasonForTheClosure} maxLength={120} />
							</div>
						</div>
					))}
					<p className="m-0">
						<Button onClick={() => closures.append({ from: "", to: "", reason: "" })}>{w.addClosure}</Button>
					</p>
					<p className="m-0 text-sm text-soft">{w.nothingCanBeBookedOnTheseDays}</p>
					{shown.closed > 0 && (
						<p className="m-0 font-semibold text-persimmon-deep">{w.nAppointmentsLieOnTheseDays({ n: shown.closed })}</p>
					)}
				</fieldset>
				<div>
					<Tick of={of} field="ownersNeedFactor" label={w.ownersNeedASecondFactor} />
					<p className="m-0 text-sm text-soft">{w.anOwnerWithoutOneIsAskedToSetItUp}</p>
					{of.fault("ownersNeedFactor") && (
						<p role="alert" className="mt-1 mb-0 font-semibold text-persimmon-deep">
							{of.fault("ownersNeedFactor")}
						</p>
					)}
				</div>
			</div>
			<Texts of={of} />
			<div className="lg:col-span-2">
				<Keeping of={of} revision={shown.revision} />
			</div>
			<DiaryRules of={of} />
			<BookFields of={of} />
			<MessageGateway of={of} saved={shown} />
			<div className="grid justify-items-end gap-3 lg:col-span-2">
				<ErrorMessage error={of.error} />
				{theirs && (
					<div className="w-full max-w-xl">
						<Changed key={theirs.revision} of={of} theirs={theirs} labels={labels} />
					</div>
				)}
				<span className="flex items-center gap-4">
					{saved && <span role="status">{w.theSettingsAreSaved}</span>}
					<Button variant="primary" type="submit" disabled={of.busy}>
						{w.saveSettings}
					</Button>
				</span>
			</div>
		</form>
	);
}

/** What the studio says in its own words. */
function Texts({ of }: { of: ServerForm<Schemas["SettingsView"]> }) {
	return (
		<section aria-label={w.texts} className="grid gap-x-12 gap-y-4 lg:col-span-2 lg:grid-cols-2">
			<h2 className="m-0 text-2xl lg:col-span-2">{w.texts}</h2>
			<div className="grid content-start gap-4">
				<Lines of={of} field="emergency" label={w.inAnEmergency} hint={w.shownLargeWhenStopIsPressed} maxLength={1000} rows={5} />
				<Lines of={of} field="policies" label={w.policiesForClients} hint={w.shownToClientsOnTheirLink} maxLength={4000} rows={8} />
			</div>
			<fieldset className="m-0 grid content-start gap-4 border-0 p-0">
				<legend className="mb-1 text-sm font-semibold">{w.consentsThatClientsSign}</legend>
				<p className="m-0 text-sm text-soft">{w.whatWasSignedKeepsItsText}</p>
				<Lines of={of} field="consentTreatment" label={w.consentToTreatment} maxLength={4000} rows={6} />
				<Lines of={of} field="consentPhotos" label={w.consentToPhotos} maxLength={4000} rows={4} />
				<Lines of={of} field="consentMouth" label={w.consentToMouth} maxLength={4000} rows={4} />
				<div>
					<Tick of={of} field="typedSignatures" label={w.clientsMaySignByTyping} />
					<p className="m-0 text-sm text-soft">{w.askWhetherYourLawTakesIt}</p>
				</div>
			</fieldset>
		</section>
	);
}

/** How long client files are kept, and which are past it. */
function Keeping({ of, revision }: { of: ServerForm<Schemas["SettingsView"]>; revision: number }) {
	const past = useQuery({ queryKey: ["past-files", revision], queryFn: () => unwrap(api.GET("/api/past-files")) });
	return (
		<section aria-label={w.keepingClientFiles} className="grid gap-x-12 gap-y-3 lg:grid-cols-2">
			<h2 className="m-0 text-2xl lg:col-span-2">{w.keepingClientFiles}</h2>
			<div className="grid content-start items-end gap-4 sm:grid-cols-2">
				<Input of={of} field="keepYears" label={w.yearsAfterTheLastAppointment} type="number" min={1} max={50} />
				<Input of={of} field="keepMinorsTo" label={w.ageForThoseUnder18} type="number" min={18} max={60} />
			</div>
			<div>
				<p className="m-0 text-sm text-soft">{w.nothingIsDeletedByItself}</p>
				<ErrorMessage error={past.error} />
				{past.data?.length === 0 && <p className="mt-2 mb-0">{w.noFileIsPast}</p>}
				{past.data && past.data.length > 0 && (
					<>
						<p className="mt-2 mb-1 font-semibold">{w.nFilesArePast({ n: past.data.length })}</p>
						<ul className="m-0 max-h-60 list-none overflow-y-auto p-0">
							{past.data.map((f) => (
								<li key={f.client} className="flex min-h-11 items-center justify-between gap-4 border-b border-rule">
									<Link to="/people/$id" params={{ id: f.client }} className="underline underline-offset-4">
										{f.name}
									</Link>
									<span className="num text-sm text-soft">{w.lastSeenDay({ day: dayWords(f.last) })}</span>
								</li>
							))}
						</ul>
					</>
				)}
			</div>
		</section>
	);
}
