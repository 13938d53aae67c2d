CREATE TABLE `installation` (
	`id` integer PRIMARY KEY NOT NULL,
	`key_mark` text NOT NULL
);
