<script setup lang="ts">
/** The dialog of the desk that is open, if one is. */
import { useDialogs } from "../stores/dialogs";
import AdoptDialog from "./AdoptDialog.vue";
import LandingFixesDialog from "./LandingFixesDialog.vue";
import WindowsDialog from "./WindowsDialog.vue";
import ContentsPlaceDialog from "./ContentsPlaceDialog.vue";
import EntriesDialog from "./EntriesDialog.vue";
import EntryStyleDialog from "./EntryStyleDialog.vue";
import GoalDialog from "./GoalDialog.vue";
import HeadingDialog from "./HeadingDialog.vue";
import SpokenHeadingsDialog from "./SpokenHeadingsDialog.vue";
import PageNameDialog from "./PageNameDialog.vue";
import PlaceDialog from "./PlaceDialog.vue";
import PointersDialog from "./PointersDialog.vue";
import RegionsDialog from "./RegionsDialog.vue";
import RepairDialog from "./RepairDialog.vue";
import RulesDialog from "./RulesDialog.vue";
import SampleDialog from "./SampleDialog.vue";
import SkeletonDialog from "./SkeletonDialog.vue";
import StyleDialog from "./StyleDialog.vue";
import TwiceDialog from "./TwiceDialog.vue";

const dialogs = useDialogs();
</script>

<template>
  <template v-if="dialogs.open">
    <RepairDialog v-if="dialogs.open.name === 'repair'" :code="dialogs.open.code" />
    <HeadingDialog v-else-if="dialogs.open.name === 'heading'" :missing="dialogs.open.missing" />
    <SampleDialog v-else-if="dialogs.open.name === 'sample'" />
    <SkeletonDialog v-else-if="dialogs.open.name === 'skeleton'" :as-page="false" />
    <SkeletonDialog v-else-if="dialogs.open.name === 'new-page'" :as-page="true" />
    <PageNameDialog v-else-if="dialogs.open.name === 'copy-page'" :copies="true" />
    <PageNameDialog v-else-if="dialogs.open.name === 'title'" :copies="false" />
    <EntryStyleDialog v-else-if="dialogs.open.name === 'entry-style'" />
    <RegionsDialog v-else-if="dialogs.open.name === 'regions'" />
    <SpokenHeadingsDialog v-else-if="dialogs.open.name === 'spoken-headings'" />
    <RulesDialog v-else-if="dialogs.open.name === 'rules'" />
    <TwiceDialog v-else-if="dialogs.open.name === 'twice'" />
    <GoalDialog v-else-if="dialogs.open.name === 'goal'" :origin="dialogs.open.origin" />
    <PointersDialog v-else-if="dialogs.open.name === 'pointers'" :section="dialogs.open.section" />
    <AdoptDialog v-else-if="dialogs.open.name === 'adopt'" :start="dialogs.open.start" />
    <ContentsPlaceDialog v-else-if="dialogs.open.name === 'contents-place'" :block="dialogs.open.block" />
    <EntriesDialog v-else-if="dialogs.open.name === 'entries'" />
    <WindowsDialog v-else-if="dialogs.open.name === 'windows'" />
    <LandingFixesDialog v-else-if="dialogs.open.name === 'landing-fixes'" />
    <StyleDialog v-else-if="dialogs.open.name === 'style'" />
    <PlaceDialog v-else :places="dialogs.open.places" :start="dialogs.open.start" />
  </template>
</template>
