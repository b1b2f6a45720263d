<script setup lang="ts">
/** The dialog of the desk that is open, if one is. */
import { useDialogs } from "../stores/dialogs";
import HeadingDialog from "./HeadingDialog.vue";
import HeardDialog from "./HeardDialog.vue";
import PlaceDialog from "./PlaceDialog.vue";
import RegionsDialog from "./RegionsDialog.vue";
import RepairDialog from "./RepairDialog.vue";
import RulesDialog from "./RulesDialog.vue";
import SampleDialog from "./SampleDialog.vue";
import SkeletonDialog from "./SkeletonDialog.vue";
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
    <RegionsDialog v-else-if="dialogs.open.name === 'regions'" />
    <HeardDialog v-else-if="dialogs.open.name === 'heard'" />
    <RulesDialog v-else-if="dialogs.open.name === 'rules'" />
    <TwiceDialog v-else-if="dialogs.open.name === 'twice'" />
    <PlaceDialog v-else :places="dialogs.open.places" :start="dialogs.open.start" />
  </template>
</template>
