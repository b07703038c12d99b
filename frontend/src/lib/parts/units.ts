/** What a person typed, understood as a number in the wanted unit, or the reason it is not. */
export type Understood = { value: number; echo: string } | { error: string };

export type Quantity = 'length' | 'temperature' | 'plain' | 'whole';

/** Whether this job is worked in feet and inches (lengths are kept in metres either way), and whether a comma is its
 * decimal sign. */
export const system = { feet: false, comma: false };

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

/** Metres from "1200mm", "1,2 m", "4' 2 3/8\"", "1200" (a bare whole number of 100 or more is millimetres). */
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
	return Number.isInteger(bare) && bare >= 100 ? bare / 1000 : bare;
}

export function understand(text: string, quantity: Quantity): Understood {
	if (quantity === 'length') {
		const value = metres(text);
		if (value === null) return { error: 'not a length: try 1.2, 1200mm or 4\' 2"' };
		const rounded = Math.round(value * 1e4) / 1e4;
		const feet = /['’′"”″]|ft|in/i.test(text) || system.feet;
		return { value: rounded, echo: `${rounded.toFixed(3)} m${feet ? ` (${feetAndInches(rounded)})` : ''}` };
	}
	const bare = plainNumber(text.replace(/\s*(°?c|k|kw|w|l|%|m²)$/i, ''));
	if (bare === null) return { error: 'not a number' };
	if (quantity === 'whole' && !Number.isInteger(bare)) return { error: 'a whole number' };
	return { value: bare, echo: quantity === 'temperature' ? `${bare} °C` : String(bare) };
}
