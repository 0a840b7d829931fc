import {
	type Announcements,
	closestCenter,
	DndContext,
	type DragEndEvent,
	KeyboardSensor,
	PointerSensor,
	useSensor,
	useSensors,
} from "@dnd-kit/core";
import { SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { type KeyboardEvent, memo, type PointerEvent, type RefObject, useEffect, useLayoutEffect, useMemo } from "react";
import type { Schemas } from "../../api/client";
import * as w from "../../words/catalogue/workbench";

type Grab = PointerEvent | KeyboardEvent;

/** What takes hold of a step, by its id; and what pressed a handle before this was there. */
export type Grips = { of: Map<string, (e: Grab) => void>; waiting?: { id: string; e: Grab } | undefined };

type Steps = Schemas["Evaluation"]["steps"];
export type SortingProps = {
	steps: Steps;
	/** The list in which the rows stand, each around its handle. */
	list: RefObject<HTMLElement | null>;
	grips: RefObject<Grips>;
	onDrop: (id: string, over: string) => void;
};

/** Moves the rows of a list that is drawn elsewhere, by pointer and by keyboard. */
export function Sorting({ steps, list, grips, onDrop }: SortingProps) {
	const sensors = useSensors(
		useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
		useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
	);
	const order = steps.map((s) => s.id).join(" ");
	const ids = useMemo(() => order.split(" ").filter(Boolean), [order]);
	const end = ({ active, over }: DragEndEvent) => over && active.id !== over.id && onDrop(String(active.id), String(over.id));
	useEffect(() => {
		const early = grips.current.waiting;
		grips.current.waiting = undefined;
		if (early) grips.current.of.get(early.id)?.(early.e);
	}, [grips]);
	return (
		<DndContext
			sensors={sensors}
			collisionDetection={closestCenter}
			onDragEnd={end}
			accessibility={{ announcements: announcing(steps), screenReaderInstructions: { draggable: w.howToDrag } }}
		>
			<SortableContext items={ids} strategy={verticalListSortingStrategy}>
				{ids.map((id) => (
					<Sorted key={id} id={id} list={list} grips={grips} />
				))}
			</SortableContext>
		</DndContext>
	);
}

/** Moves one row. It draws nothing itself. */
const Sorted = memo(function Sorted({ id, list, grips }: { id: string } & Pick<SortingProps, "list" | "grips">) {
	const { setNodeRef, setActivatorNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({ id });
	const described = attributes["aria-describedby"];
	useLayoutEffect(() => {
		const handle = list.current?.querySelector<HTMLElement>(`[data-handle="${id}"]`) ?? null;
		setNodeRef(handle?.parentElement ?? null);
		setActivatorNodeRef(handle);
		handle?.setAttribute("aria-describedby", described);
	}, [id, list, setNodeRef, setActivatorNodeRef, described]);
	useLayoutEffect(() => {
		const of = grips.current.of;
		of.set(id, (e) => listeners?.[e.type === "keydown" ? "onKeyDown" : "onPointerDown"]?.(e));
		return () => void of.delete(id);
	}, [id, grips, listeners]);
	useLayoutEffect(() => {
		const row = list.current?.querySelector(`[data-handle="${id}"]`)?.parentElement;
		if (!row) return;
		row.style.transform = CSS.Translate.toString(transform) ?? "";
		row.style.transition = transition ?? "";
		row.toggleAttribute("data-dragged", isDragging);
	}, [id, list, transform, transition, isDragging]);
	return null;
});

/** What a screen reader hears while a step is moved. */
function announcing(steps: Steps): Announcements {
	const at = (id: unknown) => steps.findIndex((s) => s.id === id);
	const name = (id: unknown) => steps[at(id)]?.name ?? "";
	const place = (id: unknown) => ({ number: at(id) + 1, count: steps.length });
	return {
		onDragStart: ({ active }) => w.stepLifted({ name: name(active.id), ...place(active.id) }),
		onDragOver: ({ active, over }) => (over ? w.stepOver({ name: name(active.id), ...place(over.id) }) : undefined),
		onDragEnd: ({ active, over }) =>
			over ? w.stepDropped({ name: name(active.id), ...place(over.id) }) : w.stepBack({ name: name(active.id) }),
		onDragCancel: ({ active }) => w.stepBack({ name: name(active.id) }),
	};
}
