import rules from '$lib/api/rules.json';
import { LENGTH, oneLine, type Hung } from '$lib/emitters/oneLine';
import type { Option } from '$lib/parts/choices';
import { feetAndInches, system, understand } from '$lib/parts/units';
import { likelier, unusual, USUAL, type Range } from '$lib/parts/usual';
import { withoutKey, type How } from './evidence';

export type Side = 'back' | 'right' | 'front' | 'left';
export const SIDES: Side[] = ['back', 'right', 'front', 'left'];
export type Where = {
	how: 'behind' | 'before' | 'left' | 'right' | 'over' | 'under';
	room: string;
	/** The side of the other room it stands flush with, where somebody says. */
	flush: Side | null;
};
export type LineOpening = {
	kind: 'window' | 'door';
	label: string;
	width_m: number;
	height_m: number;
	side: Side | null;
	to: string | null;
	count: number;
	how: How | null;
};
export type LineRoom = {
	name: string;
	size: { width: number; length: number; how: How | null } | null;
	height: { value: number; how: How | null } | null;
	where: Where | null;
	like: string | null;
	openings: LineOpening[];
	emitters: (Hung & { how: How | null; output_w: number | null })[];
	neighbours: { side: Side; label: string }[];
};
export type Part = { text: string; error: string };
/** A figure of a line that is possible and unusual: of what, and what was likelier meant. */
export type Odd = { what: string; value: number; likelier: number | null };
type Known = { rooms: { id: string; label: string }[]; types: Option[]; lastType: string };

const SIZE = new RegExp(String.raw`(?:^|\s)(${LENGTH})\s*[x×*]\s*(${LENGTH})(?:\s*[x×*]\s*(${LENGTH}))?`, 'i');
const PLACES: [RegExp, Where['how']][] = [
	[/^(?:over|above)\s+(.+)$/i, 'over'],
	[/^(?:under|below)\s+(.+)$/i, 'under'],
	[/^behind\s+(.+)$/i, 'behind'],
	[/^(?:before|in front of)\s+(.+)$/i, 'before'],
	[/^(?:left of|to the left of)\s+(.+)$/i, 'left'],
	[/^(?:right of|to the right of)\s+(.+)$/i, 'right']
];
const AT = /(?:^|\s)(?:at the |on the |in the |to the )?(front|back|rear|left|right)(?:\s+(?:wall|side))?$/i;

function metres(text: string | undefined): number | null {
	const meant = understand(text ?? '', 'length');
	return 'value' in meant && meant.value > 0 ? meant.value : null;
}

function sideOf(word: string): Side {
	return word.toLowerCase() === 'rear' ? 'back' : (word.toLowerCase() as Side);
}

/** Parts of a line: commas and semicolons part them, a comma within a number does not. */
function parts(line: string): string[] {
	return line
		.split(/;|,(?!\d)|,(?=\d+\s*(?:windows?|doors?)\b)/i)
		.map((part) => part.trim())
		.filter((part) => part !== '');
}

/**
 * A room as it stands in a notebook: "Kitchen 3.0x2.4, right of Dining room, window 1.2x1.05 back, t11 1000x600, party
 * left". The first part names the room and gives width x length (x height); the others in any order. What a part is
 * understood as stands beside it, or why it is not.
 */
export function roomLine(line: string, known: Known): { room: LineRoom | null; parts: Part[] } {
	const [head = '', ...rest] = parts(line);
	if (!head) return { room: null, parts: [] };
	const out: Part[] = [];
	const { text: first, how } = withoutKey(head);
	const size = SIZE.exec(first);
	const name = (size ? first.slice(0, size.index) : first).trim();
	const room: LineRoom = {
		name,
		size: null,
		height: null,
		where: null,
		like: null,
		openings: [],
		emitters: [],
		neighbours: []
	};
	if (!name) out.push({ text: head, error: 'a room begins with its name' });
	else if (!size) out.push({ text: head, error: '' });
	else {
		const [width, length, height] = [metres(size[1]), metres(size[2]), size[3] ? metres(size[3]) : null];
		const bad = width === null || length === null || (size[3] !== undefined && height === null);
		if (!bad) room.size = { width, length, how };
		if (height) room.height = { value: height, how };
		out.push({ text: head, error: bad ? 'the size is not two lengths' : '' });
	}
	let last = known.lastType;
	for (const text of rest) {
		const error = take(text, room, known, last);
		last = room.emitters.at(-1)?.type ?? last;
		out.push({ text, error });
	}
	return { room: out.some((part) => part.error) ? null : room, parts: out };
}

/** A line of ours, in metres, as a job writes its lengths. */
export function inJobsUnits(line: string): string {
	return system.feet ? line.replace(/\d+\.\d+/g, (metres) => feetAndInches(Number(metres))) : line;
}

/** The first figure of a room that is possible and unusual; an opening may be no taller than its wall. */
export function oddIn(room: LineRoom): Odd | null {
	const high: Range = [USUAL.opening_height_m[0], room.height?.value ?? USUAL.opening_height_m[1]];
	const figures: [string, number | undefined, Range][] = [
		['wall', room.size?.width, USUAL.wall_m],
		['wall', room.size?.length, USUAL.wall_m],
		['height', room.height?.value, USUAL.room_height_m],
		...room.openings.flatMap((one): [string, number, Range][] => [
			[`${one.kind}, its width`, one.width_m, USUAL.opening_width_m],
			[`${one.kind}, its height`, one.height_m, high]
		]),
		...room.emitters.flatMap((one): [string, number, Range][] => [
			['radiator, its length', one.length_m, USUAL.panel_length_m],
			['radiator, its height', one.height_m, USUAL.panel_height_m]
		])
	];
	for (const [what, value, usual] of figures)
		if (value !== undefined && unusual(value, usual)) return { what, value, likelier: likelier(value, usual, true) };
	return null;
}

/** One part after the first; why it is not understood, or nothing. */
function take(text: string, room: LineRoom, known: Known, lastType: string): string {
	const { text: plain, how } = withoutKey(text);
	for (const [pattern, where] of PLACES) {
		const found = pattern.exec(plain);
		if (!found) continue;
		const flush = AT.exec(found[1]!);
		const whole = roomCalled(found[1]!, known.rooms);
		const other = whole ?? (flush ? roomCalled(found[1]!.slice(0, flush.index), known.rooms) : null);
		if (!other) return `no room is called “${found[1]}”`;
		room.where = { how: where, room: other, flush: whole || !flush ? null : sideOf(flush[1]!) };
		return '';
	}
	const like = /^(?:like|as)\s+(.+)$/i.exec(plain);
	if (like) {
		room.like = roomCalled(like[1]!, known.rooms);
		return room.like ? '' : `no room is called “${like[1]}”`;
	}
	const high = /^(?:height\s+)?(.+?)\s+high$|^(?:height|h)\s+(.+)$/i.exec(plain);
	if (high) {
		const value = metres(high[1] ?? high[2]);
		if (value === null) return 'the height is not a length';
		room.height = { value, how };
		return '';
	}
	const party = /^(?:party(?: wall)?|neighbour|next door)\s+(front|back|rear|left|right)(?:\s+(?:to\s+)?(.+))?$/i.exec(
		plain
	);
	if (party) {
		room.neighbours.push({ side: sideOf(party[1]!), label: party[2] ?? 'Neighbour' });
		return '';
	}
	const hole = /^(?:(\d+)\s+)?(.*?\b(windows?|doors?))\b\s*(.*)$/i.exec(plain);
	if (hole) return opening(hole, room, how);
	const output = /[\s,]*\b(?:about\s+)?(\d+)\s*w$/i.exec(plain);
	const hung = oneLine(output ? plain.slice(0, output.index) : plain, known.types, lastType);
	if ('error' in hung) return hung.error;
	room.emitters.push({ ...hung, how, output_w: output ? Number(output[1]) : null });
	return '';
}

function opening(found: RegExpExecArray, room: LineRoom, how: How | null): string {
	const [, many, words = '', noun = '', tail = ''] = found;
	const kind = /^door/i.test(noun) && !/glaz|glass|french|patio/i.test(words) ? 'door' : 'window';
	let rest = tail.trim();
	let to: string | null = null;
	const beyond = /\bto\s+(?:an?\s+|the\s+)?(?:unheated\s+)?(?!the\s+(?:front|back|left|right))([a-z][\w' -]*)$/i.exec(
		rest
	);
	if (beyond && !/^(?:front|back|rear|left|right)$/i.test(beyond[1]!.trim())) {
		to = beyond[1]!.trim();
		rest = rest.slice(0, beyond.index).trim();
	}
	const at = AT.exec(rest);
	const side = at ? sideOf(at[1]!) : null;
	if (at) rest = rest.slice(0, at.index).trim();
	const size = SIZE.exec(` ${rest}`);
	const usual = rules.openings.door;
	const [width, height] = size
		? [metres(size[1]), metres(size[2])]
		: kind === 'door'
			? [usual.width_m, usual.height_m]
			: [null, null];
	if (width === null || height === null) return `${kind === 'door' ? 'door' : 'window'}: width x height, as 1.2x1.05`;
	if (rest && !size) return `“${rest}” is not understood`;
	const label = words.replace(/s$/i, '').trim();
	room.openings.push({
		kind,
		label: label.toLowerCase() === kind ? '' : label.charAt(0).toUpperCase() + label.slice(1),
		width_m: width,
		height_m: height,
		side,
		to: to ? to.charAt(0).toUpperCase() + to.slice(1) : null,
		count: Math.min(Number(many ?? 1) || 1, 12),
		how: size ? how : 'assumed'
	});
	return '';
}

/** A room by its whole name, else by the only one that begins so. */
function roomCalled(said: string, rooms: { id: string; label: string }[]): string | null {
	const want = said
		.trim()
		.toLowerCase()
		.replace(/^the\s+/, '');
	const exact = rooms.find((one) => one.label.toLowerCase() === want);
	const begin = rooms.filter((one) => one.label.toLowerCase().startsWith(want));
	return exact?.id ?? (begin.length === 1 ? begin[0]!.id : null);
}
