CREATE TABLE `instruments` (
	`name` text PRIMARY KEY NOT NULL,
	`made` text NOT NULL,
	`changed` integer NOT NULL
);
