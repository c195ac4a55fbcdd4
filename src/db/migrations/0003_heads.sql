ALTER TABLE `revisions` ADD `token` text;--> statement-breakpoint
CREATE UNIQUE INDEX `revisions_token` ON `revisions` (`token`);