<script setup lang="ts">
/** The dialog of the desk that is open, if one is; each is loaded when it is first opened. */
import { defineAsyncComponent } from "vue";
import { useDialogs } from "../stores/dialogs";

const AdoptDialog = defineAsyncComponent(() => import("./AdoptDialog.vue"));
const HeadsDialog = defineAsyncComponent(() => import("./HeadsDialog.vue"));
const LandingFixesDialog = defineAsyncComponent(() => import("./LandingFixesDialog.vue"));
const WindowsDialog = defineAsyncComponent(() => import("./WindowsDialog.vue"));
const ContentsPlaceDialog = defineAsyncComponent(() => import("./ContentsPlaceDialog.vue"));
const DraftDialog = defineAsyncComponent(() => import("./DraftDialog.vue"));
const HistoryDialog = defineAsyncComponent(() => import("./HistoryDialog.vue"));
const DeleteFileDialog = defineAsyncComponent(() => import("./DeleteFileDialog.vue"));
const EntriesDialog = defineAsyncComponent(() => import("./EntriesDialog.vue"));
const EntryStyleDialog = defineAsyncComponent(() => import("./EntryStyleDialog.vue"));
const GoalDialog = defineAsyncComponent(() => import("./GoalDialog.vue"));
const HeadingDialog = defineAsyncComponent(() => import("./HeadingDialog.vue"));
const SpokenHeadingsDialog = defineAsyncComponent(() => import("./SpokenHeadingsDialog.vue"));
const MoveFileDialog = defineAsyncComponent(() => import("./MoveFileDialog.vue"));
const NavigationDialog = defineAsyncComponent(() => import("./NavigationDialog.vue"));
const MoveFilesDialog = defineAsyncComponent(() => import("./MoveFilesDialog.vue"));
const MenuEntryDialog = defineAsyncComponent(() => import("./MenuEntryDialog.vue"));
const PairDialog = defineAsyncComponent(() => import("./PairDialog.vue"));
const PageNameDialog = defineAsyncComponent(() => import("./PageNameDialog.vue"));
const PlaceDialog = defineAsyncComponent(() => import("./PlaceDialog.vue"));
const PointersDialog = defineAsyncComponent(() => import("./PointersDialog.vue"));
const PublishDialog = defineAsyncComponent(() => import("./PublishDialog.vue"));
const RecipeDialog = defineAsyncComponent(() => import("./RecipeDialog.vue"));
const RegionsDialog = defineAsyncComponent(() => import("./RegionsDialog.vue"));
const RepairDialog = defineAsyncComponent(() => import("./RepairDialog.vue"));
const RulesDialog = defineAsyncComponent(() => import("./RulesDialog.vue"));
const SampleDialog = defineAsyncComponent(() => import("./SampleDialog.vue"));
const SkeletonDialog = defineAsyncComponent(() => import("./SkeletonDialog.vue"));
const StyleDialog = defineAsyncComponent(() => import("./StyleDialog.vue"));
const TwiceDialog = defineAsyncComponent(() => import("./TwiceDialog.vue"));

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
    <MoveFileDialog
      v-else-if="dialogs.open.name === 'move-file'"
      :path="dialogs.open.path"
      :is-page="dialogs.open.isPage"
    />
    <HeadsDialog v-else-if="dialogs.open.name === 'heads'" />
    <NavigationDialog v-else-if="dialogs.open.name === 'navigation'" />
    <PublishDialog v-else-if="dialogs.open.name === 'publish'" />
    <RecipeDialog v-else-if="dialogs.open.name === 'recipe'" />
    <DeleteFileDialog
      v-else-if="dialogs.open.name === 'delete-file'"
      :path="dialogs.open.path"
      :links-in="dialogs.open.linksIn"
    />
    <DraftDialog v-else-if="dialogs.open.name === 'draft'" />
    <HistoryDialog v-else-if="dialogs.open.name === 'history'" />
    <EntryStyleDialog v-else-if="dialogs.open.name === 'entry-style'" />
    <RegionsDialog v-else-if="dialogs.open.name === 'regions'" />
    <SpokenHeadingsDialog v-else-if="dialogs.open.name === 'spoken-headings'" />
    <RulesDialog v-else-if="dialogs.open.name === 'rules'" />
    <TwiceDialog v-else-if="dialogs.open.name === 'twice'" />
    <GoalDialog v-else-if="dialogs.open.name === 'goal'" :origin="dialogs.open.origin" />
    <PairDialog v-else-if="dialogs.open.name === 'pair'" :section="dialogs.open.section" />
    <MenuEntryDialog v-else-if="dialogs.open.name === 'menu-section'" :section="dialogs.open.section" />
    <MoveFilesDialog v-else-if="dialogs.open.name === 'move-files'" :paths="dialogs.open.paths" />
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
