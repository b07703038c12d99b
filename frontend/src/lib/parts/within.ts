/** What hangs on a field at the window's right edge is moved left until all of it can be read. */
export function within(node: HTMLElement): { destroy: () => void } {
	const place = () => {
		node.style.translate = '';
		const over = node.getBoundingClientRect().right + 8 - document.documentElement.clientWidth;
		if (over > 0) node.style.translate = `${-over}px`;
	};
	place();
	const sized = new ResizeObserver(place);
	sized.observe(node);
	return { destroy: () => sized.disconnect() };
}
