// Before the first paint: the theme that was chosen, or the device's own.
(function () {
	var chosen = null;
	try {
		chosen = localStorage.getItem('mainspring.mode');
	} catch {
		/* storage is closed to us: follow the device */
	}
	var dark = chosen ? chosen === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches;
	document.documentElement.dataset.mode = dark ? 'dark' : 'light';
	document.documentElement.style.colorScheme = dark ? 'dark' : 'light';
})();
