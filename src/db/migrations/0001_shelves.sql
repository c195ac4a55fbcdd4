CREATE TABLE `tags` (
	`tune_id` integer NOT NULL,
	`name` text NOT NULL,
	PRIMARY KEY(`tune_id`, `name`),
	FOREIGN KEY (`tune_id`) REFERENCES `tunes`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `tags_name` ON `tags` (`name`);--> statement-breakpoint
ALTER TABLE `revisions` ADD `name` text;--> statement-breakpoint
ALTER TABLE `tunes` ADD `lowest` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `tunes` ADD `highest` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `tunes` ADD `pitches` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `tunes` ADD `source` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `tunes` ADD `rights` text DEFAULT 'unknown' NOT NULL;--> statement-breakpoint
ALTER TABLE `tunes` ADD `fingerprint` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `tunes` ADD `removed` integer;--> statement-breakpoint
CREATE INDEX `tunes_fingerprint` ON `tunes` (`fingerprint`);--> statement-breakpoint
CREATE VIRTUAL TABLE `tunes_words` USING fts5(`title`, `words`, `tags`, tokenize = 'unicode61 remove_diacritics 2', prefix = '1 2 3');--> statement-breakpoint
INSERT INTO `tunes_words` (rowid, `title`, `words`, `tags`) SELECT `id`, `title`, `sentence`, '' FROM `tunes`;--> statement-breakpoint
CREATE INDEX `tunes_shelf` ON `tunes` (`removed`, `title` COLLATE NOCASE, `dance`, `key`, `metre`, `rights`, `lowest`, `highest`, `pitches`, `bars`, `changed`);
