/** Invented people; every address ends in `.test`. */
export const FIRST_NAMES: ReadonlyArray<readonly [name: string, country: string]> = [
  ['Ilse', 'NL'], ['Tomasz', 'PL'], ['Łucja', 'PL'], ['Beatriz', 'PT'], ['João', 'PT'], ['Zé', 'PT'], ['Aoife', 'IE'], ['Søren', 'DK'], ['Maja', 'SE'], ['Jürgen', 'DE'],
  ['Annelie', 'DE'], ['Chloé', 'FR'], ['Étienne', 'FR'], ['Giulia', 'IT'], ['Nicolò', 'IT'], ['Íñigo', 'ES'], ['Carmen', 'ES'], ['Zoë', 'BE'], ['Eleni', 'GR'], ['Νίκος', 'GR'],
  ['Đorđe', 'HR'], ['Štěpán', 'CZ'], ['Réka', 'HU'], ['Ioana', 'RO'], ['Mihkel', 'EE'], ['Ásta', 'NO'], ['Ingrid', 'NO'], ['Reto', 'CH'], ['Morag', 'GB'], ['Priya', 'GB'],
  ['Oluwaseun', 'GB'], ['Hannah', 'US'], ['Mateo', 'US'], ['Nguyễn', 'US'], ['Kaito', 'US'], ['Noor', 'CA'], ['Émilie', 'CA'], ['Väinö', 'FI'], ['Saule', 'LT'], ['Jānis', 'LV'],
];

export const LAST_NAMES = ['Vermeer-Haas', 'Kowalczyk', 'Almeida', 'Ó Briain', 'Lindqvist', 'Brandstätter', 'Fabre', 'Castellani', 'Etxeberria', 'Papadaki', 'Novák', 'Halvorsen', 'Okafor', 'Tamm', 'Meier', 'Sato', 'Nguyen', 'Rossignol', 'da Cunha', 'Petrauskaitė'];

export const MAIL_HOSTS = ['moonmail.test', 'brievenbus.test', 'postfach.test', 'correio.test', 'nightpost.test'];
