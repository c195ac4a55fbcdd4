CREATE TABLE `answers` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`tune_id` integer NOT NULL,
	`bar` integer NOT NULL,
	`at` integer NOT NULL,
	`right` integer NOT NULL,
	`created` integer NOT NULL,
	FOREIGN KEY (`tune_id`) REFERENCES `tunes`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `answers_tune` ON `answers` (`tune_id`);