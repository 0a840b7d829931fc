import { Link } from "@tanstack/react-router";
import { DropdownMenu } from "radix-ui";
import { Button } from "../../kit/kit";
import * as w from "../../words/catalogue/workbench";

/** Saves text as a file. */
export function saveFile(name: string, type: string, text: string) {
	const url = URL.createObjectURL(new Blob([text], { type }));
	const a = document.createElement("a");
	a.href = url;
	a.download = name;
	a.click();
	setTimeout(() => URL.revokeObjectURL(url), 1000);
}

/** A picture on the page as an SVG file complete in itself. */
function savePicture(selector: string, name: string) {
	const svg = document.querySelector<SVGSVGElement>(selector);
	if (!svg) return;
	const copy = svg.cloneNode(true) as SVGSVGElement;
	const box = svg.getBoundingClientRect();
	copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
	if (!copy.getAttribute("viewBox")) copy.setAttribute("viewBox", `0 0 ${box.width} ${box.height}`);
	copy.setAttribute("width", `${Math.round(box.width)}`);
	copy.setAttribute("height", `${Math.round(box.height)}`);
	for (const a of ["class", "tabindex", "role"]) copy.removeAttribute(a);
	const text = new XMLSerializer().serializeToString(copy).replaceAll("var(--font-sans)", "Atkinson Hyperlegible Next, sans-serif");
	saveFile(name, "image/svg+xml", text);
}

const item = "block min-h-11 cursor-default rounded-sm px-3 py-2.5 font-semibold text-ink no-underline data-[highlighted]:bg-leaf";

/** Everything in which a protocol leaves the workbench, opened. */
export function ExportMenu({ id, slug, ready }: { id: string; slug: string; ready: boolean }) {
	const at = (what: string) => `/api/protocols/${id}/${what}`;
	return (
		<DropdownMenu.Root modal={false} defaultOpen>
			<DropdownMenu.Trigger asChild>
				<Button disabled={!ready} title={ready ? undefined : w.savingDraft}>
					{w.exportWord}
				</Button>
			</DropdownMenu.Trigger>
			<DropdownMenu.Portal>
				<DropdownMenu.Content align="end" className="z-30 min-w-64 rounded-md border border-ink bg-paper p-2">
					<DropdownMenu.Item asChild>
						<a className={item} href={at("card?size=A4")} target="_blank" rel="noreferrer">
							{w.cardToPrintA4} <span className="text-sm font-normal text-soft">P</span>
						</a>
					</DropdownMenu.Item>
					<DropdownMenu.Item asChild>
						<a className={item} href={at("card?size=A5")} target="_blank" rel="noreferrer">
							{w.cardToPrintA5}
						</a>
					</DropdownMenu.Item>
					<DropdownMenu.Item asChild>
						<a className={item} href={at("card?size=wall")} target="_blank" rel="noreferrer">
							{w.pageForTheWall}
						</a>
					</DropdownMenu.Item>
					<DropdownMenu.Item asChild>
						<a className={item} href={at("csv")} download>
							{w.stepsAsATableCSV}
						</a>
					</DropdownMenu.Item>
					<DropdownMenu.Item asChild>
						<a className={item} href={at("file")} download>
							{w.protocolFileForAnotherStudio}
						</a>
					</DropdownMenu.Item>
					<DropdownMenu.Item className={item} onSelect={() => savePicture("[data-chart]", `${slug}-chart.svg`)}>
						{w.travelChartAsAPictureSVG}
					</DropdownMenu.Item>
					<DropdownMenu.Item className={item} onSelect={() => savePicture("[data-view]", `${slug}-map.svg`)}>
						{w.faceMapAsAPictureSVG}
					</DropdownMenu.Item>
					<DropdownMenu.Separator className="my-1 border-t border-rule" />
					<DropdownMenu.Item asChild>
						<Link className={item} to="/protocols/$id/variants" params={{ id }}>
							{w.variantsBySkinType}
						</Link>
					</DropdownMenu.Item>
					<DropdownMenu.Item asChild>
						<Link className={item} to="/protocols/$id/versions" params={{ id }}>
							{w.compareVersions}
						</Link>
					</DropdownMenu.Item>
				</DropdownMenu.Content>
			</DropdownMenu.Portal>
		</DropdownMenu.Root>
	);
}
