CREATE TABLE `revisions` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`tune_id` integer NOT NULL,
	`parent` integer,
	`step` text NOT NULL,
	`work` text NOT NULL,
	`created` integer NOT NULL,
	FOREIGN KEY (`tune_id`) REFERENCES `tunes`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `revisions_tune` ON `revisions` (`tune_id`);--> statement-breakpoint
CREATE INDEX `revisions_parent` ON `revisions` (`parent`);--> statement-breakpoint
CREATE TABLE `tunes` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`title` text NOT NULL,
	`key` text NOT NULL,
	`metre` text NOT NULL,
	`dance` text NOT NULL,
	`bars` integer NOT NULL,
	`sentence` text NOT NULL,
	`weave` text NOT NULL,
	`head` integer NOT NULL,
	`created` integer NOT NULL,
	`changed` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `tunes_title` ON `tunes` (`title`);