// Before anything is painted, so that a dark screen never flashes white.
(function () {
  var chosen = localStorage.getItem('half-penny-theme');
  var dark = chosen === 'dark' || (chosen !== 'light' && matchMedia('(prefers-color-scheme: dark)').matches);
  document.documentElement.dataset.theme = dark ? 'dark' : 'light';
})();
