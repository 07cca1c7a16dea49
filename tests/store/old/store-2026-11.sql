
/*!40101 SET @OLD_CHARACTER_SET_CLIENT=@@CHARACTER_SET_CLIENT */;
/*!40101 SET @OLD_CHARACTER_SET_RESULTS=@@CHARACTER_SET_RESULTS */;
/*!40101 SET @OLD_COLLATION_CONNECTION=@@COLLATION_CONNECTION */;
/*!40101 SET NAMES utf8mb4 */;
/*!40103 SET @OLD_TIME_ZONE=@@TIME_ZONE */;
/*!40103 SET TIME_ZONE='+00:00' */;
/*!40014 SET @OLD_UNIQUE_CHECKS=@@UNIQUE_CHECKS, UNIQUE_CHECKS=0 */;
/*!40014 SET @OLD_FOREIGN_KEY_CHECKS=@@FOREIGN_KEY_CHECKS, FOREIGN_KEY_CHECKS=0 */;
/*!40101 SET @OLD_SQL_MODE=@@SQL_MODE, SQL_MODE='NO_AUTO_VALUE_ON_ZERO' */;
/*!40111 SET @OLD_SQL_NOTES=@@SQL_NOTES, SQL_NOTES=0 */;
DROP TABLE IF EXISTS `_yoyo_log`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `_yoyo_log` (
  `id` varchar(36) NOT NULL,
  `migration_hash` varchar(64) DEFAULT NULL,
  `migration_id` varchar(255) DEFAULT NULL,
  `operation` varchar(10) DEFAULT NULL,
  `username` varchar(255) DEFAULT NULL,
  `hostname` varchar(255) DEFAULT NULL,
  `comment` varchar(255) DEFAULT NULL,
  `created_at_utc` timestamp NULL DEFAULT NULL,
  PRIMARY KEY (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

DROP TABLE IF EXISTS `_yoyo_migration`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `_yoyo_migration` (
  `migration_hash` varchar(64) NOT NULL,
  `migration_id` varchar(255) DEFAULT NULL,
  `applied_at_utc` timestamp NULL DEFAULT NULL,
  PRIMARY KEY (`migration_hash`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

INSERT INTO `_yoyo_migration` VALUES ('08fe5ffa7207e34023785d1af68d3471489b3dba2d6257f791816fd6e7ea7437','0007.create-change-log','2026-11-28 09:39:38');
INSERT INTO `_yoyo_migration` VALUES ('0ccf1d9e09efec9f915dead610400c95f2314ffd44b1b48e9cdfb0c94e84dae1','0008.create-shot-fact','2026-11-28 09:39:39');
INSERT INTO `_yoyo_migration` VALUES ('11e346171207c4d299b9bdbed3f758cf421b12fe7ace7818c98eb496333e168f','0009.add-opening','2026-11-28 09:39:39');
INSERT INTO `_yoyo_migration` VALUES ('1ca1d9db5bd91d51f66374ed62364772d42835ebf55052c117b96ab8fb4d5412','0002.create-author','2026-11-28 09:39:37');
INSERT INTO `_yoyo_migration` VALUES ('1cdd7e5d92ae0ac30101b3d276b6247af020fba3120ffa526291a1272715d417','0011.add-difficulty','2026-11-28 09:39:39');
INSERT INTO `_yoyo_migration` VALUES ('2c23347bd345cf68c97b873c5ad3c2090fa9a93836c3610d2dc93cc3a9493250','0012.create-answer','2026-11-28 09:39:39');
INSERT INTO `_yoyo_migration` VALUES ('6109c2b7f78b7aa75bce7352550f55f3000546a31a64ae27bd87116907aa4984','0003.create-player','2026-11-28 09:39:38');
INSERT INTO `_yoyo_migration` VALUES ('674d9ab6925fb02b858242e48a176636d06896df364ae186d7bf9f45af2ec1e7','0006.create-fact','2026-11-28 09:39:38');
INSERT INTO `_yoyo_migration` VALUES ('a4828e81faa202a064f65cc0f8e6bebe4f88c56d7bfe856907f3ebfca00be7ea','0001.create-club','2026-11-28 09:39:37');
INSERT INTO `_yoyo_migration` VALUES ('b78d117cb3d8db7075ae74554d54e1c8049ade9b1d9ecf32ca72eda3207acb5e','0005.create-game','2026-11-28 09:39:38');
INSERT INTO `_yoyo_migration` VALUES ('cd7d568cebd2ca98dede6ba566e52ecfaf68d70983239880a92fc3dc669935dd','0013.add-skill','2026-11-28 09:39:40');
INSERT INTO `_yoyo_migration` VALUES ('f3958a3dd87c620084a5ca769608748b31f58a2a64990aa5eb6082982a7e7734','0004.create-recording','2026-11-28 09:39:38');
INSERT INTO `_yoyo_migration` VALUES ('f54dc34b3b2aeb8019ee4b358fa3d5a95fbba5a196a4ff24a9fba15047587c5d','0010.create-reading','2026-11-28 09:39:39');
DROP TABLE IF EXISTS `_yoyo_version`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `_yoyo_version` (
  `version` int(11) NOT NULL,
  `installed_at_utc` timestamp NULL DEFAULT NULL,
  PRIMARY KEY (`version`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

INSERT INTO `_yoyo_version` VALUES (2,'2026-11-28 09:39:37');
DROP TABLE IF EXISTS `answer`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `answer` (
  `hash` char(64) CHARACTER SET ascii COLLATE ascii_general_ci NOT NULL,
  `club_id` int(10) unsigned NOT NULL,
  `state` varchar(10) NOT NULL,
  `progress` double NOT NULL DEFAULT 0,
  `said` varchar(500) NOT NULL DEFAULT '',
  `body` longtext NOT NULL,
  `heartbeat` datetime(3) NOT NULL,
  `asked_at` datetime(3) NOT NULL,
  PRIMARY KEY (`hash`),
  KEY `by_age` (`asked_at`),
  KEY `club_id` (`club_id`),
  CONSTRAINT `answer_ibfk_1` FOREIGN KEY (`club_id`) REFERENCES `club` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

INSERT INTO `answer` VALUES ('a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1a1',1,'done',1,'','{"level":"coarse"}','2026-11-28 09:42:00.000','2026-11-28 09:42:00.000');
DROP TABLE IF EXISTS `author`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `author` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `club_id` int(10) unsigned NOT NULL,
  `name` varchar(200) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `club_id` (`club_id`,`name`),
  CONSTRAINT `author_ibfk_1` FOREIGN KEY (`club_id`) REFERENCES `club` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=2 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

INSERT INTO `author` VALUES (1,1,'Coach');
DROP TABLE IF EXISTS `change_log`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `change_log` (
  `id` bigint(20) unsigned NOT NULL AUTO_INCREMENT,
  `game_id` char(36) CHARACTER SET ascii COLLATE ascii_general_ci NOT NULL,
  `operation` char(36) CHARACTER SET ascii COLLATE ascii_general_ci NOT NULL,
  `client` char(36) CHARACTER SET ascii COLLATE ascii_general_ci NOT NULL,
  `author_id` int(10) unsigned NOT NULL,
  `made_at` datetime(3) NOT NULL,
  `kind` enum('edit','undo','redo') NOT NULL,
  `label` varchar(200) NOT NULL,
  `facts` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`facts`)),
  `reverses` bigint(20) unsigned DEFAULT NULL,
  `reversed_by` bigint(20) unsigned DEFAULT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `operation` (`operation`),
  KEY `by_game` (`game_id`,`id`),
  KEY `author_id` (`author_id`),
  CONSTRAINT `change_log_ibfk_1` FOREIGN KEY (`game_id`) REFERENCES `game` (`id`) ON DELETE CASCADE,
  CONSTRAINT `change_log_ibfk_2` FOREIGN KEY (`author_id`) REFERENCES `author` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=5 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

INSERT INTO `change_log` VALUES (1,'5cf57842-e928-46e6-82ae-c41dd6251377','ff07eaba-0a27-41df-afe9-f429eab11c3d','c823d9f2-95db-45ff-8b13-8dfae9a9280c',1,'2026-11-28 09:39:44.730','edit','imported','{\"match:5cf57842-e928-46e6-82ae-c41dd6251377\":{\"before\":null,\"after\":{\"parent\":\"5cf57842-e928-46e6-82ae-c41dd6251377\",\"seat\":0.0,\"document\":{\"format\":\"aretane-match\",\"version\":1,\"title\":\"An older store\",\"date\":\"2026-01-17\",\"discipline\":\"nine-ball\",\"rules\":{\"breaks\":\"winner\"},\"table\":\"pool-9ft\",\"race_to\":5,\"session\":\"match\",\"players\":{\"A\":{\"name\":\"Ilse Marwood\"},\"B\":{\"name\":\"Tomas Verrall\"}},\"recordings\":[]}}},\"rack:79fd683f-a246-4376-8d01-0f9bc3e58eb5\":{\"before\":null,\"after\":{\"parent\":\"5cf57842-e928-46e6-82ae-c41dd6251377\",\"seat\":0.0,\"document\":{\"breaker\":\"B\"}}},\"shot:93601fb3-b681-4e86-a852-5869d34a6975\":{\"before\":null,\"after\":{\"parent\":\"79fd683f-a246-4376-8d01-0f9bc3e58eb5\",\"seat\":0.0,\"document\":{\"player\":\"B\",\"note\":\"Nine on the break. No credit to the plan.\",\"kind\":\"break\",\"intent\":\"attack\",\"intent_source\":\"inferred\",\"layout_before\":{\"balls\":{\"cue\":[0.605,0.5478],\"1\":[1.905,0.63499],\"6\":[1.95451,0.60641],\"3\":[1.95453,0.6636],\"7\":[2.00404,0.57783],\"9\":[2.00404,0.635],\"2\":[2.00404,0.69217],\"4\":[2.05355,0.60641],\"8\":[2.05356,0.6636],\"5\":[2.10308,0.635]}},\"first_contact\":\"1\",\"rails_after_contact\":7,\"potted\":[{\"ball\":\"2\",\"pocket\":\"foot-left\"},{\"ball\":\"9\",\"pocket\":\"foot-right\"}],\"layout_after\":{\"balls\":{\"cue\":[2.0748,0.1936],\"1\":[0.1892,0.5137],\"6\":[0.3016,1.1382],\"3\":[1.8415,1.0322],\"7\":[1.8058,1.1556],\"4\":[1.9631,0.3947],\"8\":[0.0222,1.2689],\"5\":[2.4789,0.2521]}},\"object_balls_to_rail\":6,\"stroke\":{\"words\":[\"firm\",\"stun\"],\"aim\":0.0864,\"speed\":8.70607,\"side\":0.0,\"height\":0.0},\"route\":[[1.9494,1.2425],[1.9819,0.0275]]}}},\"rack:7bde5093-b762-460f-8f00-c6216b290d52\":{\"before\":null,\"after\":{\"parent\":\"5cf57842-e928-46e6-82ae-c41dd6251377\",\"seat\":1.0,\"document\":{\"breaker\":\"B\"}}},\"shot:ca5818b8-f6fa-4698-82bf-5941060d5d4b\":{\"before\":null,\"after\":{\"parent\":\"7bde5093-b762-460f-8f00-c6216b290d52\",\"seat\":0.0,\"document\":{\"player\":\"B\",\"kind\":\"break\",\"intent\":\"attack\",\"intent_source\":\"inferred\",\"layout_before\":{\"balls\":{\"cue\":[0.605,0.3738],\"1\":[1.905,0.635],\"2\":[1.95453,0.60642],\"6\":[1.95452,0.66359],\"8\":[2.00405,0.57782],\"9\":[2.00403,0.63499],\"7\":[2.00404,0.69218],\"5\":[2.05356,0.60642],\"3\":[2.05355,0.66358],\"4\":[2.10307,0.635]}},\"first_contact\":\"1\",\"rails_after_contact\":9,\"potted\":[],\"layout_after\":{\"balls\":{\"1\":[0.3891,1.0642],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7116,0.5056],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[0.9348,0.2781],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314]}},\"object_balls_to_rail\":8,\"scratch\":true,\"stroke\":{\"words\":[\"firm\",\"stun\"],\"aim\":0.20208,\"speed\":8.90387,\"side\":0.0,\"height\":0.0},\"route\":[[0.7453,1.2425],[0.1934,1.2425]]}}},\"shot:4395289b-ea88-4a20-b629-eed2b00b6c4f\":{\"before\":null,\"after\":{\"parent\":\"7bde5093-b762-460f-8f00-c6216b290d52\",\"seat\":1.0,\"document\":{\"player\":\"A\",\"kind\":\"pot\",\"intent\":\"attack\",\"intent_source\":\"stated\",\"called\":{\"ball\":\"1\",\"pocket\":\"head-left\"},\"layout_before\":{\"balls\":{\"1\":[0.3891,1.0642],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7116,0.5056],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[0.9348,0.2781],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314],\"cue\":[0.6364,1.0041]}},\"first_contact\":\"1\",\"rails_after_contact\":2,\"potted\":[{\"ball\":\"1\",\"pocket\":\"head-left\"}],\"layout_after\":{\"balls\":{\"cue\":[1.7039,0.3973],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7254,0.5254],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[1.2058,0.1877],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314]}},\"stroke\":{\"words\":[\"firm\",\"follow\"],\"aim\":2.97428,\"speed\":3.44594,\"side\":0.0,\"height\":0.36113},\"route\":[[0.0275,0.7369]],\"targets\":{\"cue\":{\"source\":\"stated\",\"zones\":[{\"grade\":\"ideal\",\"centre\":[1.7228,0.3039],\"radius\":0.05},{\"grade\":\"acceptable\",\"centre\":[1.7228,0.3039],\"radius\":0.1}],\"next\":{\"ball\":\"2\",\"pocket\":\"side-right\"}}}}}},\"shot:64c9979e-2556-4250-a742-03ecd7fd06e4\":{\"before\":null,\"after\":{\"parent\":\"7bde5093-b762-460f-8f00-c6216b290d52\",\"seat\":2.0,\"document\":{\"player\":\"A\",\"kind\":\"pot\",\"intent\":\"attack\",\"intent_source\":\"stated\",\"called\":{\"ball\":\"2\",\"pocket\":\"side-right\"},\"layout_before\":{\"balls\":{\"cue\":[1.7039,0.3973],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7254,0.5254],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[1.2058,0.1877],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314]}},\"first_contact\":\"2\",\"rails_after_contact\":1,\"potted\":[{\"ball\":\"2\",\"pocket\":\"side-right\"}],\"layout_after\":{\"balls\":{\"cue\":[1.6435,0.3571],\"6\":[1.7131,0.5017],\"8\":[0.7254,0.5254],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[1.2058,0.1877],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314]}},\"stroke\":{\"words\":[\"firm\",\"draw\"],\"aim\":-2.42582,\"speed\":2.95474,\"side\":0.0,\"height\":-0.13044},\"targets\":{\"cue\":{\"source\":\"stated\",\"zones\":[{\"grade\":\"ideal\",\"centre\":[1.6141,0.2833],\"radius\":0.05},{\"grade\":\"acceptable\",\"centre\":[1.6141,0.2833],\"radius\":0.1}]}}}}},\"shot:78ab9cbd-f85a-4b0f-b005-fa3bb3814acb\":{\"before\":null,\"after\":{\"parent\":\"7bde5093-b762-460f-8f00-c6216b290d52\",\"seat\":3.0,\"document\":{\"player\":\"A\",\"note\":\"Seen early. Right to take it.\",\"kind\":\"combination\",\"intent\":\"attack\",\"intent_source\":\"stated\",\"called\":{\"ball\":\"9\",\"pocket\":\"foot-right\"},\"layout_before\":{\"balls\":{\"cue\":[1.6435,0.3571],\"6\":[1.7131,0.5017],\"8\":[0.7254,0.5254],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[1.2058,0.1877],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314]}},\"first_contact\":\"3\",\"rails_after_contact\":3,\"potted\":[{\"ball\":\"9\",\"pocket\":\"foot-right\"}],\"layout_after\":{\"balls\":{\"cue\":[2.3106,0.6433],\"6\":[1.7131,0.5017],\"8\":[0.7254,0.5254],\"7\":[2.4919,0.9587],\"5\":[1.2058,0.1877],\"3\":[1.9976,1.0559],\"4\":[1.5633,0.1991]}},\"stroke\":{\"words\":[\"firm\",\"follow\",\"right\"],\"aim\":-2.0955,\"speed\":3.14771,\"side\":0.04399,\"height\":0.29732},\"route\":[[1.173,0.0275],[0.0275,0.5631],[0.9437,1.2425],[2.5125,0.6449]]}}}}',NULL,NULL);
INSERT INTO `change_log` VALUES (2,'5cf57842-e928-46e6-82ae-c41dd6251377','1cb3fe52-4630-4f9f-a3a2-bd1cd09a17fc','00000000-0000-0000-0000-000000000001',1,'2026-11-28 09:39:44.802','edit','note','{\"shot:4395289b-ea88-4a20-b629-eed2b00b6c4f\":{\"before\":{\"parent\":\"7bde5093-b762-460f-8f00-c6216b290d52\",\"seat\":1.0,\"document\":{\"player\":\"A\",\"kind\":\"pot\",\"intent\":\"attack\",\"intent_source\":\"stated\",\"called\":{\"ball\":\"1\",\"pocket\":\"head-left\"},\"layout_before\":{\"balls\":{\"1\":[0.3891,1.0642],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7116,0.5056],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[0.9348,0.2781],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314],\"cue\":[0.6364,1.0041]}},\"first_contact\":\"1\",\"rails_after_contact\":2,\"potted\":[{\"ball\":\"1\",\"pocket\":\"head-left\"}],\"layout_after\":{\"balls\":{\"cue\":[1.7039,0.3973],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7254,0.5254],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[1.2058,0.1877],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314]}},\"stroke\":{\"words\":[\"firm\",\"follow\"],\"aim\":2.97428,\"speed\":3.44594,\"side\":0.0,\"height\":0.36113},\"route\":[[0.0275,0.7369]],\"targets\":{\"cue\":{\"source\":\"stated\",\"zones\":[{\"grade\":\"ideal\",\"centre\":[1.7228,0.3039],\"radius\":0.05},{\"grade\":\"acceptable\",\"centre\":[1.7228,0.3039],\"radius\":0.1}],\"next\":{\"ball\":\"2\",\"pocket\":\"side-right\"}}}}},\"after\":{\"parent\":\"7bde5093-b762-460f-8f00-c6216b290d52\",\"seat\":1.0,\"document\":{\"player\":\"A\",\"kind\":\"pot\",\"intent\":\"attack\",\"intent_source\":\"stated\",\"called\":{\"ball\":\"1\",\"pocket\":\"head-left\"},\"layout_before\":{\"balls\":{\"1\":[0.3891,1.0642],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7116,0.5056],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[0.9348,0.2781],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314],\"cue\":[0.6364,1.0041]}},\"first_contact\":\"1\",\"rails_after_contact\":2,\"potted\":[{\"ball\":\"1\",\"pocket\":\"head-left\"}],\"layout_after\":{\"balls\":{\"cue\":[1.7039,0.3973],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7254,0.5254],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[1.2058,0.1877],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314]}},\"stroke\":{\"words\":[\"firm\",\"follow\"],\"aim\":2.97428,\"speed\":3.44594,\"side\":0.0,\"height\":0.36113},\"route\":[[0.0275,0.7369]],\"targets\":{\"cue\":{\"source\":\"stated\",\"zones\":[{\"grade\":\"ideal\",\"centre\":[1.7228,0.3039],\"radius\":0.05},{\"grade\":\"acceptable\",\"centre\":[1.7228,0.3039],\"radius\":0.1}],\"next\":{\"ball\":\"2\",\"pocket\":\"side-right\"}}},\"note\":\"first word\"}}}}',NULL,NULL);
INSERT INTO `change_log` VALUES (3,'5cf57842-e928-46e6-82ae-c41dd6251377','416ee0ed-1073-4ebe-9c26-e743f84d498a','00000000-0000-0000-0000-000000000001',1,'2026-11-28 09:39:44.872','edit','note again','{\"shot:4395289b-ea88-4a20-b629-eed2b00b6c4f\":{\"before\":{\"parent\":\"7bde5093-b762-460f-8f00-c6216b290d52\",\"seat\":1.0,\"document\":{\"player\":\"A\",\"kind\":\"pot\",\"intent\":\"attack\",\"intent_source\":\"stated\",\"called\":{\"ball\":\"1\",\"pocket\":\"head-left\"},\"layout_before\":{\"balls\":{\"1\":[0.3891,1.0642],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7116,0.5056],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[0.9348,0.2781],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314],\"cue\":[0.6364,1.0041]}},\"first_contact\":\"1\",\"rails_after_contact\":2,\"potted\":[{\"ball\":\"1\",\"pocket\":\"head-left\"}],\"layout_after\":{\"balls\":{\"cue\":[1.7039,0.3973],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7254,0.5254],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[1.2058,0.1877],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314]}},\"stroke\":{\"words\":[\"firm\",\"follow\"],\"aim\":2.97428,\"speed\":3.44594,\"side\":0.0,\"height\":0.36113},\"route\":[[0.0275,0.7369]],\"targets\":{\"cue\":{\"source\":\"stated\",\"zones\":[{\"grade\":\"ideal\",\"centre\":[1.7228,0.3039],\"radius\":0.05},{\"grade\":\"acceptable\",\"centre\":[1.7228,0.3039],\"radius\":0.1}],\"next\":{\"ball\":\"2\",\"pocket\":\"side-right\"}}},\"note\":\"first word\"}},\"after\":{\"parent\":\"7bde5093-b762-460f-8f00-c6216b290d52\",\"seat\":1.0,\"document\":{\"player\":\"A\",\"kind\":\"pot\",\"intent\":\"attack\",\"intent_source\":\"stated\",\"called\":{\"ball\":\"1\",\"pocket\":\"head-left\"},\"layout_before\":{\"balls\":{\"1\":[0.3891,1.0642],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7116,0.5056],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[0.9348,0.2781],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314],\"cue\":[0.6364,1.0041]}},\"first_contact\":\"1\",\"rails_after_contact\":2,\"potted\":[{\"ball\":\"1\",\"pocket\":\"head-left\"}],\"layout_after\":{\"balls\":{\"cue\":[1.7039,0.3973],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7254,0.5254],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[1.2058,0.1877],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314]}},\"stroke\":{\"words\":[\"firm\",\"follow\"],\"aim\":2.97428,\"speed\":3.44594,\"side\":0.0,\"height\":0.36113},\"route\":[[0.0275,0.7369]],\"targets\":{\"cue\":{\"source\":\"stated\",\"zones\":[{\"grade\":\"ideal\",\"centre\":[1.7228,0.3039],\"radius\":0.05},{\"grade\":\"acceptable\",\"centre\":[1.7228,0.3039],\"radius\":0.1}],\"next\":{\"ball\":\"2\",\"pocket\":\"side-right\"}}},\"note\":\"second word\"}}}}',NULL,4);
INSERT INTO `change_log` VALUES (4,'5cf57842-e928-46e6-82ae-c41dd6251377','9ce6fd07-1787-4e97-9c30-fde66af768ba','00000000-0000-0000-0000-000000000001',1,'2026-11-28 09:39:44.913','undo','undo','{\"shot:4395289b-ea88-4a20-b629-eed2b00b6c4f\":{\"before\":{\"parent\":\"7bde5093-b762-460f-8f00-c6216b290d52\",\"seat\":1.0,\"document\":{\"player\":\"A\",\"kind\":\"pot\",\"intent\":\"attack\",\"intent_source\":\"stated\",\"called\":{\"ball\":\"1\",\"pocket\":\"head-left\"},\"layout_before\":{\"balls\":{\"1\":[0.3891,1.0642],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7116,0.5056],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[0.9348,0.2781],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314],\"cue\":[0.6364,1.0041]}},\"first_contact\":\"1\",\"rails_after_contact\":2,\"potted\":[{\"ball\":\"1\",\"pocket\":\"head-left\"}],\"layout_after\":{\"balls\":{\"cue\":[1.7039,0.3973],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7254,0.5254],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[1.2058,0.1877],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314]}},\"stroke\":{\"words\":[\"firm\",\"follow\"],\"aim\":2.97428,\"speed\":3.44594,\"side\":0.0,\"height\":0.36113},\"route\":[[0.0275,0.7369]],\"targets\":{\"cue\":{\"source\":\"stated\",\"zones\":[{\"grade\":\"ideal\",\"centre\":[1.7228,0.3039],\"radius\":0.05},{\"grade\":\"acceptable\",\"centre\":[1.7228,0.3039],\"radius\":0.1}],\"next\":{\"ball\":\"2\",\"pocket\":\"side-right\"}}},\"note\":\"second word\"}},\"after\":{\"parent\":\"7bde5093-b762-460f-8f00-c6216b290d52\",\"seat\":1.0,\"document\":{\"player\":\"A\",\"kind\":\"pot\",\"intent\":\"attack\",\"intent_source\":\"stated\",\"called\":{\"ball\":\"1\",\"pocket\":\"head-left\"},\"layout_before\":{\"balls\":{\"1\":[0.3891,1.0642],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7116,0.5056],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[0.9348,0.2781],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314],\"cue\":[0.6364,1.0041]}},\"first_contact\":\"1\",\"rails_after_contact\":2,\"potted\":[{\"ball\":\"1\",\"pocket\":\"head-left\"}],\"layout_after\":{\"balls\":{\"cue\":[1.7039,0.3973],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7254,0.5254],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[1.2058,0.1877],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314]}},\"stroke\":{\"words\":[\"firm\",\"follow\"],\"aim\":2.97428,\"speed\":3.44594,\"side\":0.0,\"height\":0.36113},\"route\":[[0.0275,0.7369]],\"targets\":{\"cue\":{\"source\":\"stated\",\"zones\":[{\"grade\":\"ideal\",\"centre\":[1.7228,0.3039],\"radius\":0.05},{\"grade\":\"acceptable\",\"centre\":[1.7228,0.3039],\"radius\":0.1}],\"next\":{\"ball\":\"2\",\"pocket\":\"side-right\"}}},\"note\":\"first word\"}}}}',3,NULL);
DROP TABLE IF EXISTS `club`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `club` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `name` varchar(200) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `name` (`name`)
) ENGINE=InnoDB AUTO_INCREMENT=2 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

INSERT INTO `club` VALUES (1,'My club');
DROP TABLE IF EXISTS `fact`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `fact` (
  `game_id` char(36) CHARACTER SET ascii COLLATE ascii_general_ci NOT NULL,
  `kind` enum('match','rack','shot') NOT NULL,
  `id` char(36) CHARACTER SET ascii COLLATE ascii_general_ci NOT NULL,
  `parent` char(36) CHARACTER SET ascii COLLATE ascii_general_ci NOT NULL,
  `seat` double NOT NULL,
  `document` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`document`)),
  `changed_in` bigint(20) unsigned NOT NULL,
  `changed_by` char(36) CHARACTER SET ascii COLLATE ascii_general_ci NOT NULL,
  PRIMARY KEY (`game_id`,`kind`,`id`),
  CONSTRAINT `fact_ibfk_1` FOREIGN KEY (`game_id`) REFERENCES `game` (`id`) ON DELETE CASCADE
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

INSERT INTO `fact` VALUES ('5cf57842-e928-46e6-82ae-c41dd6251377','match','5cf57842-e928-46e6-82ae-c41dd6251377','5cf57842-e928-46e6-82ae-c41dd6251377',0,'{\"format\":\"aretane-match\",\"version\":1,\"title\":\"An older store\",\"date\":\"2026-01-17\",\"discipline\":\"nine-ball\",\"rules\":{\"breaks\":\"winner\"},\"table\":\"pool-9ft\",\"race_to\":5,\"session\":\"match\",\"players\":{\"A\":{\"name\":\"Ilse Marwood\"},\"B\":{\"name\":\"Tomas Verrall\"}},\"recordings\":[]}',1,'c823d9f2-95db-45ff-8b13-8dfae9a9280c');
INSERT INTO `fact` VALUES ('5cf57842-e928-46e6-82ae-c41dd6251377','rack','79fd683f-a246-4376-8d01-0f9bc3e58eb5','5cf57842-e928-46e6-82ae-c41dd6251377',0,'{\"breaker\":\"B\"}',1,'c823d9f2-95db-45ff-8b13-8dfae9a9280c');
INSERT INTO `fact` VALUES ('5cf57842-e928-46e6-82ae-c41dd6251377','rack','7bde5093-b762-460f-8f00-c6216b290d52','5cf57842-e928-46e6-82ae-c41dd6251377',1,'{\"breaker\":\"B\"}',1,'c823d9f2-95db-45ff-8b13-8dfae9a9280c');
INSERT INTO `fact` VALUES ('5cf57842-e928-46e6-82ae-c41dd6251377','shot','4395289b-ea88-4a20-b629-eed2b00b6c4f','7bde5093-b762-460f-8f00-c6216b290d52',1,'{\"player\":\"A\",\"kind\":\"pot\",\"intent\":\"attack\",\"intent_source\":\"stated\",\"called\":{\"ball\":\"1\",\"pocket\":\"head-left\"},\"layout_before\":{\"balls\":{\"1\":[0.3891,1.0642],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7116,0.5056],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[0.9348,0.2781],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314],\"cue\":[0.6364,1.0041]}},\"first_contact\":\"1\",\"rails_after_contact\":2,\"potted\":[{\"ball\":\"1\",\"pocket\":\"head-left\"}],\"layout_after\":{\"balls\":{\"cue\":[1.7039,0.3973],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7254,0.5254],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[1.2058,0.1877],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314]}},\"stroke\":{\"words\":[\"firm\",\"follow\"],\"aim\":2.97428,\"speed\":3.44594,\"side\":0.0,\"height\":0.36113},\"route\":[[0.0275,0.7369]],\"targets\":{\"cue\":{\"source\":\"stated\",\"zones\":[{\"grade\":\"ideal\",\"centre\":[1.7228,0.3039],\"radius\":0.05},{\"grade\":\"acceptable\",\"centre\":[1.7228,0.3039],\"radius\":0.1}],\"next\":{\"ball\":\"2\",\"pocket\":\"side-right\"}}},\"note\":\"first word\"}',4,'00000000-0000-0000-0000-000000000001');
INSERT INTO `fact` VALUES ('5cf57842-e928-46e6-82ae-c41dd6251377','shot','64c9979e-2556-4250-a742-03ecd7fd06e4','7bde5093-b762-460f-8f00-c6216b290d52',2,'{\"player\":\"A\",\"kind\":\"pot\",\"intent\":\"attack\",\"intent_source\":\"stated\",\"called\":{\"ball\":\"2\",\"pocket\":\"side-right\"},\"layout_before\":{\"balls\":{\"cue\":[1.7039,0.3973],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7254,0.5254],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[1.2058,0.1877],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314]}},\"first_contact\":\"2\",\"rails_after_contact\":1,\"potted\":[{\"ball\":\"2\",\"pocket\":\"side-right\"}],\"layout_after\":{\"balls\":{\"cue\":[1.6435,0.3571],\"6\":[1.7131,0.5017],\"8\":[0.7254,0.5254],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[1.2058,0.1877],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314]}},\"stroke\":{\"words\":[\"firm\",\"draw\"],\"aim\":-2.42582,\"speed\":2.95474,\"side\":0.0,\"height\":-0.13044},\"targets\":{\"cue\":{\"source\":\"stated\",\"zones\":[{\"grade\":\"ideal\",\"centre\":[1.6141,0.2833],\"radius\":0.05},{\"grade\":\"acceptable\",\"centre\":[1.6141,0.2833],\"radius\":0.1}]}}}',1,'c823d9f2-95db-45ff-8b13-8dfae9a9280c');
INSERT INTO `fact` VALUES ('5cf57842-e928-46e6-82ae-c41dd6251377','shot','78ab9cbd-f85a-4b0f-b005-fa3bb3814acb','7bde5093-b762-460f-8f00-c6216b290d52',3,'{\"player\":\"A\",\"note\":\"Seen early. Right to take it.\",\"kind\":\"combination\",\"intent\":\"attack\",\"intent_source\":\"stated\",\"called\":{\"ball\":\"9\",\"pocket\":\"foot-right\"},\"layout_before\":{\"balls\":{\"cue\":[1.6435,0.3571],\"6\":[1.7131,0.5017],\"8\":[0.7254,0.5254],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[1.2058,0.1877],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314]}},\"first_contact\":\"3\",\"rails_after_contact\":3,\"potted\":[{\"ball\":\"9\",\"pocket\":\"foot-right\"}],\"layout_after\":{\"balls\":{\"cue\":[2.3106,0.6433],\"6\":[1.7131,0.5017],\"8\":[0.7254,0.5254],\"7\":[2.4919,0.9587],\"5\":[1.2058,0.1877],\"3\":[1.9976,1.0559],\"4\":[1.5633,0.1991]}},\"stroke\":{\"words\":[\"firm\",\"follow\",\"right\"],\"aim\":-2.0955,\"speed\":3.14771,\"side\":0.04399,\"height\":0.29732},\"route\":[[1.173,0.0275],[0.0275,0.5631],[0.9437,1.2425],[2.5125,0.6449]]}',1,'c823d9f2-95db-45ff-8b13-8dfae9a9280c');
INSERT INTO `fact` VALUES ('5cf57842-e928-46e6-82ae-c41dd6251377','shot','93601fb3-b681-4e86-a852-5869d34a6975','79fd683f-a246-4376-8d01-0f9bc3e58eb5',0,'{\"player\":\"B\",\"note\":\"Nine on the break. No credit to the plan.\",\"kind\":\"break\",\"intent\":\"attack\",\"intent_source\":\"inferred\",\"layout_before\":{\"balls\":{\"cue\":[0.605,0.5478],\"1\":[1.905,0.63499],\"6\":[1.95451,0.60641],\"3\":[1.95453,0.6636],\"7\":[2.00404,0.57783],\"9\":[2.00404,0.635],\"2\":[2.00404,0.69217],\"4\":[2.05355,0.60641],\"8\":[2.05356,0.6636],\"5\":[2.10308,0.635]}},\"first_contact\":\"1\",\"rails_after_contact\":7,\"potted\":[{\"ball\":\"2\",\"pocket\":\"foot-left\"},{\"ball\":\"9\",\"pocket\":\"foot-right\"}],\"layout_after\":{\"balls\":{\"cue\":[2.0748,0.1936],\"1\":[0.1892,0.5137],\"6\":[0.3016,1.1382],\"3\":[1.8415,1.0322],\"7\":[1.8058,1.1556],\"4\":[1.9631,0.3947],\"8\":[0.0222,1.2689],\"5\":[2.4789,0.2521]}},\"object_balls_to_rail\":6,\"stroke\":{\"words\":[\"firm\",\"stun\"],\"aim\":0.0864,\"speed\":8.70607,\"side\":0.0,\"height\":0.0},\"route\":[[1.9494,1.2425],[1.9819,0.0275]]}',1,'c823d9f2-95db-45ff-8b13-8dfae9a9280c');
INSERT INTO `fact` VALUES ('5cf57842-e928-46e6-82ae-c41dd6251377','shot','ca5818b8-f6fa-4698-82bf-5941060d5d4b','7bde5093-b762-460f-8f00-c6216b290d52',0,'{\"player\":\"B\",\"kind\":\"break\",\"intent\":\"attack\",\"intent_source\":\"inferred\",\"layout_before\":{\"balls\":{\"cue\":[0.605,0.3738],\"1\":[1.905,0.635],\"2\":[1.95453,0.60642],\"6\":[1.95452,0.66359],\"8\":[2.00405,0.57782],\"9\":[2.00403,0.63499],\"7\":[2.00404,0.69218],\"5\":[2.05356,0.60642],\"3\":[2.05355,0.66358],\"4\":[2.10307,0.635]}},\"first_contact\":\"1\",\"rails_after_contact\":9,\"potted\":[],\"layout_after\":{\"balls\":{\"1\":[0.3891,1.0642],\"2\":[1.5746,0.2841],\"6\":[1.7131,0.5017],\"8\":[0.7116,0.5056],\"9\":[2.3018,0.5899],\"7\":[2.4919,0.9587],\"5\":[0.9348,0.2781],\"3\":[1.633,0.2435],\"4\":[1.6995,0.0314]}},\"object_balls_to_rail\":8,\"scratch\":true,\"stroke\":{\"words\":[\"firm\",\"stun\"],\"aim\":0.20208,\"speed\":8.90387,\"side\":0.0,\"height\":0.0},\"route\":[[0.7453,1.2425],[0.1934,1.2425]]}',1,'c823d9f2-95db-45ff-8b13-8dfae9a9280c');
DROP TABLE IF EXISTS `game`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `game` (
  `id` char(36) CHARACTER SET ascii COLLATE ascii_general_ci NOT NULL,
  `club_id` int(10) unsigned NOT NULL,
  `author_id` int(10) unsigned NOT NULL,
  `created_at` datetime(3) NOT NULL,
  `last_change` bigint(20) unsigned NOT NULL DEFAULT 0,
  PRIMARY KEY (`id`),
  KEY `club_id` (`club_id`),
  KEY `author_id` (`author_id`),
  CONSTRAINT `game_ibfk_1` FOREIGN KEY (`club_id`) REFERENCES `club` (`id`),
  CONSTRAINT `game_ibfk_2` FOREIGN KEY (`author_id`) REFERENCES `author` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

INSERT INTO `game` VALUES ('5cf57842-e928-46e6-82ae-c41dd6251377',1,1,'2026-11-28 09:39:44.717',4);
DROP TABLE IF EXISTS `player`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `player` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `club_id` int(10) unsigned NOT NULL,
  `name` varchar(200) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `club_id` (`club_id`,`name`),
  CONSTRAINT `player_ibfk_1` FOREIGN KEY (`club_id`) REFERENCES `club` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=3 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

INSERT INTO `player` VALUES (1,1,'Ilse Marwood');
INSERT INTO `player` VALUES (2,1,'Tomas Verrall');
DROP TABLE IF EXISTS `reading`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `reading` (
  `id` char(36) CHARACTER SET ascii COLLATE ascii_general_ci NOT NULL,
  `club_id` int(10) unsigned NOT NULL,
  `game_id` char(36) CHARACTER SET ascii COLLATE ascii_general_ci NOT NULL,
  `author_id` int(10) unsigned NOT NULL,
  `created_at` datetime(3) NOT NULL,
  `heartbeat` datetime(3) NOT NULL,
  `state` varchar(12) NOT NULL,
  `reached` double NOT NULL DEFAULT 0,
  `said` varchar(500) NOT NULL DEFAULT '',
  `wanted` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`wanted`)),
  `found` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`found`)),
  `corrections` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`corrections`)),
  PRIMARY KEY (`id`),
  UNIQUE KEY `one_a_game` (`game_id`),
  KEY `club_id` (`club_id`),
  KEY `author_id` (`author_id`),
  CONSTRAINT `reading_ibfk_1` FOREIGN KEY (`game_id`) REFERENCES `game` (`id`) ON DELETE CASCADE,
  CONSTRAINT `reading_ibfk_2` FOREIGN KEY (`club_id`) REFERENCES `club` (`id`),
  CONSTRAINT `reading_ibfk_3` FOREIGN KEY (`author_id`) REFERENCES `author` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

INSERT INTO `reading` VALUES ('7d1f1c5e-0c3f-4a52-9f0e-6c3d1a2b4c5d','1','5cf57842-e928-46e6-82ae-c41dd6251377',1,'2026-11-28 09:41:00.000','2026-11-28 09:41:30.000','running',12,'','{"from":0,"to":null}','[]','[]');
DROP TABLE IF EXISTS `recording`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `recording` (
  `club_id` int(10) unsigned NOT NULL,
  `sha256` char(64) CHARACTER SET ascii COLLATE ascii_general_ci NOT NULL,
  `author_id` int(10) unsigned NOT NULL,
  `name` varchar(300) NOT NULL,
  `added_at` datetime(3) NOT NULL,
  `bytes` bigint(20) unsigned NOT NULL,
  `seen_by` varchar(500) NOT NULL DEFAULT '',
  `probe` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`probe`)),
  `frame_times` longblob NOT NULL,
  PRIMARY KEY (`club_id`,`sha256`),
  KEY `author_id` (`author_id`),
  CONSTRAINT `recording_ibfk_1` FOREIGN KEY (`club_id`) REFERENCES `club` (`id`),
  CONSTRAINT `recording_ibfk_2` FOREIGN KEY (`author_id`) REFERENCES `author` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

DROP TABLE IF EXISTS `shot_fact`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `shot_fact` (
  `game_id` char(36) CHARACTER SET ascii COLLATE ascii_general_ci NOT NULL,
  `shot_id` char(36) CHARACTER SET ascii COLLATE ascii_general_ci NOT NULL,
  `version` smallint(5) unsigned NOT NULL,
  `club_id` int(10) unsigned NOT NULL,
  `player_id` int(10) unsigned DEFAULT NULL,
  `session` varchar(20) NOT NULL,
  `discipline` varchar(20) NOT NULL,
  `rack` smallint(5) unsigned NOT NULL,
  `shot` smallint(5) unsigned NOT NULL,
  `player` char(1) DEFAULT NULL,
  `kind` varchar(20) DEFAULT NULL,
  `intent` varchar(20) DEFAULT NULL,
  `intent_source` varchar(20) DEFAULT NULL,
  `ball` varchar(12) DEFAULT NULL,
  `pocket` varchar(12) DEFAULT NULL,
  `result` varchar(20) DEFAULT NULL,
  `foul` varchar(20) DEFAULT NULL,
  `tried` tinyint(1) NOT NULL,
  `made` tinyint(1) NOT NULL,
  `cut_angle` double DEFAULT NULL,
  `cut_side` varchar(5) DEFAULT NULL,
  `cue_distance` double DEFAULT NULL,
  `pocket_distance` double DEFAULT NULL,
  `open` double DEFAULT NULL,
  `target_source` varchar(20) DEFAULT NULL,
  `error` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin DEFAULT NULL CHECK (json_valid(`error`)),
  `opening` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin DEFAULT NULL CHECK (json_valid(`opening`)),
  `tolerance` double DEFAULT NULL,
  `travel` double DEFAULT NULL,
  `skill` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin DEFAULT NULL CHECK (json_valid(`skill`)),
  PRIMARY KEY (`game_id`,`shot_id`),
  KEY `by_club` (`club_id`,`player_id`),
  CONSTRAINT `shot_fact_ibfk_1` FOREIGN KEY (`game_id`) REFERENCES `game` (`id`) ON DELETE CASCADE
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

INSERT INTO `shot_fact` VALUES ('5cf57842-e928-46e6-82ae-c41dd6251377','4395289b-ea88-4a20-b629-eed2b00b6c4f',4,1,1,'match','nine-ball',1,1,'A','pot','attack','stated','1','head-left','made',NULL,1,1,0.26287404482359067,'right',0.19887773299169154,0.38592406403615676,1,'stated','{\"vector\":[0.0,0.0],\"distance\":0.0,\"along\":0.0,\"across\":0.0,\"assumed\":false,\"plus_minus\":0.01959964,\"grade\":\"acceptable\",\"side\":\"straight\"}',NULL,0.018085051365879012,2.222757093501617,'{\"window\":0.020546265987563313,\"gain\":3.6037235961833565,\"made\":true,\"rails\":0,\"speed\":3.44594,\"side\":0.0,\"height\":0.36113,\"elevation\":null,\"lag\":null}');
INSERT INTO `shot_fact` VALUES ('5cf57842-e928-46e6-82ae-c41dd6251377','64c9979e-2556-4250-a742-03ecd7fd06e4',4,1,1,'match','nine-ball',1,2,'A','pot','attack','stated','2','side-right','made',NULL,1,1,0.04716628021881597,'left',0.11474332642917685,0.41652607361364546,1,'stated','{\"vector\":[0.0,0.0],\"distance\":0.0,\"along\":0.0,\"across\":0.0,\"assumed\":true,\"plus_minus\":0.01959964,\"grade\":\"acceptable\",\"side\":\"right\"}',NULL,0.017774131099749013,0.04349858361702278,'{\"window\":0.033770849089523124,\"gain\":2.009992601450115,\"made\":true,\"rails\":0,\"speed\":2.95474,\"side\":0.0,\"height\":-0.13044,\"elevation\":null,\"lag\":null}');
INSERT INTO `shot_fact` VALUES ('5cf57842-e928-46e6-82ae-c41dd6251377','78ab9cbd-f85a-4b0f-b005-fa3bb3814acb',4,1,1,'match','nine-ball',1,3,'A','combination','attack','stated','9','foot-right','made',NULL,1,1,NULL,NULL,NULL,0.5840020733313227,1,NULL,NULL,NULL,NULL,5.5548898165702445,'{\"window\":null,\"gain\":null,\"made\":null,\"rails\":0,\"speed\":3.14771,\"side\":0.04399,\"height\":0.29732,\"elevation\":null,\"lag\":null}');
INSERT INTO `shot_fact` VALUES ('5cf57842-e928-46e6-82ae-c41dd6251377','93601fb3-b681-4e86-a852-5869d34a6975',4,1,2,'match','nine-ball',0,0,'B','break','attack','inferred',NULL,NULL,'made',NULL,0,0,NULL,NULL,NULL,NULL,NULL,NULL,NULL,'{\"discipline\":\"nine-ball\",\"place\":\"centre\",\"rail_distance\":0.5478,\"power\":\"firm\",\"fullness\":null,\"type\":null,\"balls\":2,\"dry\":false,\"scratch\":false,\"legal\":true,\"next_visible\":\"yes\",\"opened\":null,\"next_shot\":null,\"leaves\":null,\"won\":true}',NULL,NULL,'{\"window\":null,\"gain\":null,\"made\":null,\"rails\":0,\"speed\":8.70607,\"side\":0.0,\"height\":0.0,\"elevation\":null,\"lag\":null}');
INSERT INTO `shot_fact` VALUES ('5cf57842-e928-46e6-82ae-c41dd6251377','ca5818b8-f6fa-4698-82bf-5941060d5d4b',4,1,2,'match','nine-ball',1,0,'B','break','attack','inferred',NULL,NULL,'scratch','scratch',0,0,NULL,NULL,NULL,NULL,NULL,NULL,NULL,'{\"discipline\":\"nine-ball\",\"place\":\"right\",\"rail_distance\":0.3738,\"power\":\"firm\",\"fullness\":null,\"type\":null,\"balls\":0,\"dry\":true,\"scratch\":true,\"legal\":false,\"next_visible\":null,\"opened\":null,\"next_shot\":null,\"leaves\":null,\"won\":false}',NULL,NULL,'{\"window\":null,\"gain\":null,\"made\":null,\"rails\":0,\"speed\":8.90387,\"side\":0.0,\"height\":0.0,\"elevation\":null,\"lag\":null}');
DROP TABLE IF EXISTS `yoyo_lock`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `yoyo_lock` (
  `locked` int(11) NOT NULL DEFAULT 1,
  `ctime` timestamp NULL DEFAULT NULL,
  `pid` int(11) NOT NULL,
  PRIMARY KEY (`locked`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40103 SET TIME_ZONE=@OLD_TIME_ZONE */;

/*!40101 SET SQL_MODE=@OLD_SQL_MODE */;
/*!40014 SET FOREIGN_KEY_CHECKS=@OLD_FOREIGN_KEY_CHECKS */;
/*!40014 SET UNIQUE_CHECKS=@OLD_UNIQUE_CHECKS */;
/*!40101 SET CHARACTER_SET_CLIENT=@OLD_CHARACTER_SET_CLIENT */;
/*!40101 SET CHARACTER_SET_RESULTS=@OLD_CHARACTER_SET_RESULTS */;
/*!40101 SET COLLATION_CONNECTION=@OLD_COLLATION_CONNECTION */;
/*!40111 SET SQL_NOTES=@OLD_SQL_NOTES */;

