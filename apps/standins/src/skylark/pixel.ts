/**
 * The script that pages load: it gives the browser an id of the platform's own and tells of what happened. Written as plain
 * text, as a platform would serve it.
 */
export const pixelScript = (origin: string): string => `(function () {
  var id = (document.cookie.match(/(?:^|; )sky_browser=([\\w.]+)/) || [])[1];
  if (!id) {
    id = 'sb.' + Math.random().toString(36).slice(2) + Date.now().toString(36);
    document.cookie = 'sky_browser=' + id + ';path=/;max-age=7776000;samesite=lax';
  }
  window.skylarkPixel = {
    track: function (pixel, name, data) {
      var query = new URLSearchParams({ name: name, browser: id });
      for (var key in data) query.set(key, String(data[key]));
      new Image().src = ${JSON.stringify(origin)} + '/skylark/pixel/' + encodeURIComponent(pixel) + '.gif?' + query;
    },
  };
})();
`;
