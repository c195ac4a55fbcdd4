CREATE TABLE `groups` (
	`name` text PRIMARY KEY NOT NULL,
	`learners` text NOT NULL,
	`changed` integer NOT NULL
);
