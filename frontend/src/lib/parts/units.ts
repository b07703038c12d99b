import rules from '$lib/api/rules.json';
import { num } from './format';

/** What a person typed, understood as a number in the wanted unit, or the reason it is not. */
export type Understood = { value: number; echo: string } | { error: string };

export type Quantity = 'length' | 'temperature' | 'plain' | 'whole';

/** Whether this job is worked in feet, °F and Btu/h (everything is kept in SI either way), and whether a comma is its
 * decimal sign. */
export const system = { feet: false, comma: false };

type Other = { name: string; factor: number; offset: number; digits: number };
const OTHER = (rules.imperial ?? {}) as Record<string, Other>;

/** What a job in feet shows instead of a unit of ours. */
function other(unit: string): Other | undefined {
	return system.feet ? OTHER[unit] : undefined;
}

/** A unit as this job writes it: "°C" or "°F". */
export function unitName(unit: string): string {
	return other(unit)?.name ?? unit;
}

/** A value of ours in the unit this job shows. */
export function shown(value: number, unit: string): number {
	const found = other(unit);
	return found ? value * found.factor + found.offset : value;
}

/** A difference of ours in the unit this job shows. */
export function difference(value: number, unit: string): number {
	return value * (other(unit)?.factor ?? 1);
}

/** A value this job shows, in ours. */
export function ours(value: number, unit: string): number {
	const found = other(unit);
	return found ? (value - found.offset) / found.factor : value;
}

/** Decimals in this job's unit, where ours has `digits`; below nought: tens, hundreds. */
export function decimals(unit: string, digits: number): number {
	return digits + (other(unit)?.digits ?? 0);
}

/** Whether a length is said in feet and inches: to a centimetre or a millimetre. */
function fine(unit: string, digits: number): boolean {
	return unit === 'm' && (digits === 2 || digits === 3);
}

/** A figure in this job's unit, without its name: the unit stands at the head of the column. */
export function fig(value: number | null | undefined, unit: string, digits = 0): string {
	if (value === null || value === undefined || !Number.isFinite(value)) return '–';
	if (system.feet && fine(unit, digits)) return feetAndInches(value);
	return num(shown(value, unit), decimals(unit, digits));
}

/** A figure with its unit, as this job says it: "45.0 °C" or "113.0 °F". */
export function amount(value: number | null | undefined, unit: string, digits = 0): string {
	const text = fig(value, unit, digits);
	return !unit || (system.feet && fine(unit, digits)) ? text : `${text} ${unitName(unit)}`;
}

/** A load to the grain of a room's loss: ten watts. */
export function watts(value: number | null | undefined): string {
	return fig(value, 'W', -1);
}

/** 3.81 m as 12' 6", to the sixteenth of an inch. */
export function feetAndInches(metres: number): string {
	const sixteenths = Math.round((Math.abs(metres) / 0.0254) * 16);
	const feet = Math.floor(sixteenths / 192);
	const rest = sixteenths % 192;
	const inches = Math.floor(rest / 16);
	let [top, bottom] = [rest % 16, 16];
	while (top && top % 2 === 0) [top, bottom] = [top / 2, bottom / 2];
	const part = top ? ` ${top}/${bottom}` : '';
	return `${metres < 0 ? '−' : ''}${feet}' ${inches}${part}"`;
}

/** A length as this job writes it: to the millimetre, or to the sixteenth of an inch. */
export function lengthText(metres: number | null | undefined): string {
	if (metres === null || metres === undefined) return '–';
	return system.feet ? feetAndInches(metres) : `${metres.toFixed(3)} m`;
}

const NUMBER = '[-−+±]?(?:\\d{1,3}(?:\\u2009\\d{3})+|\\d+)(?:\\.\\d+)?';
const NAMES = (rules.imperial_names ?? []) as string[];
const UNIT = Object.keys(OTHER)
	.filter((unit) => !NAMES.includes(unit))
	.sort((a, b) => b.length - a.length)
	.join('|');
const IN_TEXT = new RegExp(
	`(?<![\\p{L}\\p{N}_.,/])(${NUMBER}(?:(?:–| to | [+−] )${NUMBER})*)([\\u2009\\u00a0 ]|\\*\\* )(${UNIT})(?![\\p{L}\\p{N}_²³/·-])`,
	'gu'
);
const ONE = new RegExp(NUMBER, 'g');
/** The size of a radiator as it is always written here: millimetres without their name. */
const PANEL = /(?<![\w.])(\d{3,4}) × (\d{3,4})(?![\w.]| mm)/g;

function valueOf(text: string): number {
	return Number(text.replace(/^[+±]/, '').replace('−', '-').replaceAll('\u2009', ''));
}

/** A text of ours with every figure that has a unit said as this job says it; the core has the same rule for papers. */
export function told(text: string): string {
	if (!system.feet) return text;
	const inches = (mm: string): string => num((Number(mm) * 0.001) / 0.0254, 1);
	const sized = text.replace(PANEL, (_, wide: string, tall: string) => `${inches(wide)} × ${inches(tall)} in`);
	return sized.replace(IN_TEXT, (_, figures: string, between: string, unit: string) => {
		const all = figures.match(ONE) ?? [];
		if (all.every((one) => fine(unit, (one.split('.')[1] ?? '').length)))
			return figures.replace(ONE, (one) => feetAndInches(valueOf(one))) + between.trimEnd();
		const found = OTHER[unit]!;
		const converted = figures.replace(ONE, (one) => {
			const sign = /^[+±]/.exec(one)?.[0] ?? '';
			const value = valueOf(one) * found.factor + (sign === '±' ? 0 : found.offset);
			return sign + num(value, (one.split('.')[1] ?? '').length + found.digits);
		});
		return `${converted}${between}${found.name}`;
	});
}

/** A refusal of a field whose place names its unit ("Kitchen, target in °C", "must be at least 5", −6.1) as this job says
 * it. */
export function bounds(
	where: string,
	message: string,
	value: unknown
): { where: string; message: string; value: string } {
	const [, place, unit = ''] = /^(.*) in (\S+)$/.exec(where) ?? [];
	if (place === undefined || !other(unit)) return { where, message, value: String(value) };
	const said = (one: number): string => fig(one, unit, unit === 'm' ? 3 : 1);
	return {
		where: `${place} in ${unitName(unit)}`,
		message: message.replace(ONE, (one) => said(valueOf(one))),
		value: typeof value === 'number' ? said(value) : String(value)
	};
}

/** An answer of the server with its texts told in this job's units; everything else as it is. */
export function inUnits<T>(value: T): T {
	if (!system.feet) return value;
	if (typeof value === 'string') return told(value) as T;
	if (Array.isArray(value)) return value.map(inUnits) as T;
	if (value && typeof value === 'object')
		return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, inUnits(one)])) as T;
	return value;
}

const METRES: Record<string, number> = { mm: 0.001, cm: 0.01, m: 1, ft: 0.3048, "'": 0.3048, in: 0.0254, '"': 0.0254 };

/** A number as a person writes it and as this application prints it: "14 200", "14,200.5", "14.200,5", "2,45". A lone
 * comma before three digits parts thousands where the job's own decimal sign is the point. */
function plainNumber(text: string, length = false): number | null {
	let tidy = text.trim().replace('−', '-');
	if (/^[-+]?\d{1,3}([ \u00a0\u2009\u202f]\d{3})+([.,]\d+)?$/.test(tidy))
		tidy = tidy.replace(/[ \u00a0\u2009\u202f]/g, '');
	if (/^[-+]?\d{1,3}(,\d{3})+\.\d+$/.test(tidy)) tidy = tidy.replaceAll(',', '');
	else if (/^[-+]?\d{1,3}(\.\d{3})+,\d+$/.test(tidy)) tidy = tidy.replaceAll('.', '');
	else if (!length && !system.comma && /^[-+]?[1-9]\d{0,2}(,\d{3})+$/.test(tidy)) tidy = tidy.replaceAll(',', '');
	tidy = tidy.replace(',', '.'); // "9 2" is no 92
	return /^[-+]?(\d+\.?\d*|\.\d+)$/.test(tidy) ? Number(tidy) : null;
}

/** "2 3/8", "3/8", "2.5" */
function mixed(text: string): number | null {
	const found = /^(?:(\d+)\s+)?(\d+)\/(\d+)$/.exec(text.trim());
	if (found) return Number(found[1] ?? 0) + Number(found[2]) / Number(found[3]);
	return plainNumber(text, true);
}

/** Metres from "1200mm", "1,2 m", "4' 2 3/8\"", "1200" (a bare whole number of 100 or more is millimetres), feet in a job in
 * feet. */
function metres(text: string): number | null {
	const clean = text.trim().replace(/[’′]/g, "'").replace(/[”″]/g, '"').toLowerCase();
	const feet = /^(.+?)\s*(?:'|ft)\s*(?:(.+?)\s*(?:"|in)?)?$/.exec(clean);
	if (feet) {
		const a = mixed(feet[1] ?? '');
		const b = feet[2] ? mixed(feet[2]) : 0;
		return a === null || b === null ? null : a * 0.3048 + b * 0.0254;
	}
	const withUnit = /^(.+?)\s*(mm|cm|m|"|in)$/.exec(clean);
	if (withUnit) {
		const value = mixed(withUnit[1] ?? '');
		return value === null ? null : value * (METRES[withUnit[2] ?? 'm'] ?? 1);
	}
	const bare = plainNumber(clean, true);
	if (bare === null) return null;
	if (Number.isInteger(bare) && bare >= 100) return bare / 1000;
	return system.feet ? bare * 0.3048 : bare;
}

/** Units as they are typed: without dots, degree signs and case; powers as figures. */
function plainly(unit: string): string {
	return unit
		.toLowerCase()
		.replace(/[°·.*]/g, '')
		.replaceAll('²', '2')
		.replaceAll('³', '3')
		.replace(/\s+/g, ' ')
		.trim();
}

/** What a typed unit makes of a number where ours is wanted: the unit itself, or the other system's for it, in any job. */
function byUnit(typed: string, unit: string): ((value: number) => number) | null {
	const found = OTHER[unit];
	const name = plainly(typed);
	if (name === plainly(unit)) return (value) => value;
	if (found && [found.name, found.name.split(' ')[0]!].map(plainly).includes(name))
		return (value) => (value - found.offset) / found.factor;
	if (unit === 'W' && name === 'kw') return (value) => value * 1000;
	return null;
}

const WITH_UNIT = /^(.*?\d[.,]?)\s*([°a-z%'"][^\d]*\d?[^\d]*)$/i;

/** `unit` is ours; a bare number is in the unit this job shows, a unit of either system may be typed behind it. */
export function understand(text: string, quantity: Quantity, unit = ''): Understood {
	if (quantity === 'length') {
		const value = metres(text);
		if (value === null) return { error: 'not a length: try 1.2, 1200mm or 4\' 2"' };
		const rounded = Math.round(value * 1e4) / 1e4;
		const feet = /['’′"”″]|ft|in/i.test(text) || system.feet;
		return { value: rounded, echo: `${rounded.toFixed(3)} m${feet ? ` (${feetAndInches(rounded)})` : ''}` };
	}
	const ourUnit = quantity === 'temperature' && !unit ? '°C' : unit;
	let bare = plainNumber(text);
	const parts = bare === null ? WITH_UNIT.exec(text.trim()) : null;
	const by = parts ? byUnit(parts[2]!, ourUnit) : null;
	if (parts && by) {
		const typed = plainNumber(parts[1]!);
		bare = typed === null ? null : tidy(by(typed));
	} else if (bare !== null) bare = other(ourUnit) ? tidy(ours(bare, ourUnit)) : bare;
	if (bare === null) return { error: ourUnit ? `not a number of ${unitName(ourUnit)}` : 'not a number' };
	if (quantity === 'whole' && other(ourUnit)) bare = Math.round(bare);
	if (quantity === 'whole' && !Number.isInteger(bare)) return { error: 'a whole number' };
	if (other(ourUnit))
		return { value: bare, echo: `${amount(bare, ourUnit, 1)} (${num(bare, Math.abs(bare) < 10 ? 2 : 1)} ${ourUnit})` };
	return { value: bare, echo: quantity === 'temperature' ? `${bare} °C` : `${bare}${parts ? ` ${ourUnit}` : ''}` };
}

/** Six figures: what is typed comes back as it was typed. */
function tidy(value: number): number {
	return value === 0 ? 0 : Number(value.toPrecision(7));
}
