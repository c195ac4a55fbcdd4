ALTER TABLE `tunes` ADD `melody` text DEFAULT '' NOT NULL;--> statement-breakpoint
CREATE INDEX `tunes_melody` ON `tunes` (`removed`,`melody`);