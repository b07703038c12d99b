/** Numbers for people: a true minus, a thin space in thousands, a dash where there is none; `digits` below nought round to
 * tens and hundreds. */
export function num(value: number | null | undefined, digits = 0): string {
	if (value === null || value === undefined || !Number.isFinite(value)) return '–';
	const grain = 10 ** -digits;
	const rounded = Math.abs(value) < 0.5 * grain ? 0 : digits < 0 ? Math.round(value / grain) * grain : value;
	const [whole = '0', part] = Math.abs(rounded).toFixed(Math.max(0, digits)).split('.');
	const grouped = whole.length > 4 ? whole.replace(/\B(?=(\d{3})+$)/g, '\u2009') : whole;
	return (rounded < 0 ? '−' : '') + grouped + (part ? `.${part}` : '');
}

const moneys: Record<string, Intl.NumberFormat> = {};

/** An amount of minor units as money without pence. */
export function money(minor: number | null | undefined, currency = 'GBP'): string {
	if (minor === null || minor === undefined || !Number.isFinite(minor)) return '–';
	moneys[currency] ??= new Intl.NumberFormat('en-GB', { style: 'currency', currency, maximumFractionDigits: 0 });
	return moneys[currency].format(minor / 100).replace('-', '−');
}

const MINOR: Record<string, string> = { GBP: 'p', EUR: 'ct', USD: '¢', CHF: 'Rp', SEK: 'öre', DKK: 'øre', NOK: 'øre' };

/** What the hundredth of a currency is called. */
export function minorUnit(currency: string): string {
	return MINOR[currency] ?? `${currency}/100`;
}

/** Text with **bold** marks, in pieces. */
export function pieces(text: string): { text: string; strong: boolean }[] {
	return text
		.split('**')
		.map((piece, n) => ({ text: piece, strong: n % 2 === 1 }))
		.filter((piece) => piece.text !== '');
}

export function clock(iso: string): string {
	const at = new Date(iso); // by hand: the first words of a locale take as long to load as the rest of a screen to draw
	return [at.getHours(), at.getMinutes()].map((part) => String(part).padStart(2, '0')).join(':');
}

export function day(iso: string): string {
	return new Date(iso).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
}
