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

/** An amount of minor units as money without pence. */
export function money(minor: number | null | undefined, currency = 'GBP'): string {
	if (minor === null || minor === undefined || !Number.isFinite(minor)) return '–';
	const text = new Intl.NumberFormat('en-GB', { style: 'currency', currency, maximumFractionDigits: 0 }).format(
		minor / 100
	);
	return text.replace('-', '−');
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
	return new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', hour12: false });
}

export function day(iso: string): string {
	return new Date(iso).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
}
